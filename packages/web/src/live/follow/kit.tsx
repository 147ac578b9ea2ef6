import type { FollowSheet, Helper } from '@viaticum/contract';
import { Checkbox } from 'antd';
import { followWords as w } from '../../words/follow.js';
import css from './kit.module.css';

/** Who has no tube at all has this one, which is none: an empty kit says that nothing is lacking. */
const NO_TUBE = 'none';

/** The tubes that somebody lacks, by the kit that a student has. */
export const lackingIn = (tubes: FollowSheet['tubes'], kit: readonly string[]): string[] =>
  kit.length === 0 ? [] : tubes.filter((tube) => !kit.includes(tube.id)).map((tube) => tube.id);
export function kitWithout(tubes: FollowSheet['tubes'], lacking: readonly string[]): string[] {
  if (lacking.length === 0) return [];
  const kit = tubes.filter((tube) => !lacking.includes(tube.id)).map((tube) => tube.id);
  return kit.length > 0 ? kit : [NO_TUBE];
}
/** What a lesson has a use for besides tubes and brushes. */
export const helpersOf = ({ ways = {} }: Pick<FollowSheet, 'ways'>): Helper[] => [
  ...new Set(Object.values(ways).flatMap((list) => list.map((one) => one.helper))),
];

/** Which of the lesson's tubes somebody has; with none of them it says what to do. */
export function Tubes({
  tubes,
  lacking,
  onLacking,
}: {
  tubes: FollowSheet['tubes'];
  lacking: readonly string[];
  onLacking: (lacking: string[]) => void;
}) {
  const hasNone = lacking.length >= tubes.length;
  return (
    <div className={css.tubes}>
      <p className="quiet">{w.kitAbout}</p>
      <Checkbox checked={hasNone} onChange={(event) => onLacking(event.target.checked ? tubes.map(({ id }) => id) : [])}>
        {w.noTubes}
      </Checkbox>
      {hasNone && <p>{w.shareTubes}</p>}
      {tubes.map((tube) => (
        <Checkbox
          key={tube.id}
          checked={!lacking.includes(tube.id)}
          onChange={(event) => onLacking(event.target.checked ? lacking.filter((id) => id !== tube.id) : [...lacking, tube.id])}
        >
          <i style={{ background: tube.rgb }} />
          {tube.name}
        </Checkbox>
      ))}
    </div>
  );
}

/** What somebody has at hand besides. */
export function AtHand({
  helpers,
  has,
  onHas,
}: {
  helpers: readonly Helper[];
  has: readonly Helper[];
  onHas: (has: Helper[]) => void;
}) {
  if (helpers.length === 0) return null;
  return (
    <fieldset className={css.atHand}>
      <legend>{w.has}</legend>
      {helpers.map((helper) => (
        <Checkbox
          key={helper}
          checked={has.includes(helper)}
          onChange={(event) => onHas(event.target.checked ? [...has, helper] : has.filter((one) => one !== helper))}
        >
          {w.helpers[helper]}
        </Checkbox>
      ))}
    </fieldset>
  );
}
