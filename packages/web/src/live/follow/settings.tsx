import { type FollowSheet, type Language, languageNow } from '@viaticum/contract';
import type { Student } from '@viaticum/core/class';
import { Checkbox, Segmented } from 'antd';
import { Fold } from '../../ui/fold.js';
import { followWords as w } from '../../words/follow.js';
import type { LiveConnection } from '../connection.js';
import { AtHand, helpersOf, kitWithout, lackingIn, Tubes } from './kit.js';
import type { PhoneSettings } from './phone-settings.js';
import css from './settings.module.css';

type Props = {
  settings: PhoneSettings;
  onChange: (change: Partial<PhoneSettings>) => void;
  /** Whose tubes and tools these are; of who paints alone they are not asked. */
  own: { connection: LiveConnection; student: Student; tubes: FollowSheet['tubes']; ways: FollowSheet['ways'] } | null;
};

/** How this phone is set, and which tubes and tools are at hand: both at any time. */
export function Settings({ settings, onChange, own }: Props) {
  const tick = (key: Exclude<keyof PhoneSettings, 'language'>, label: string) => (
    <Checkbox checked={settings[key]} onChange={(event) => onChange({ [key]: event.target.checked })}>
      {' '}
      {label}
    </Checkbox>
  );
  return (
    <>
      {own && own.tubes.length > 0 && <MyKit {...own} />}
      <Fold className={css.followSettings} head={w.settings}>
        {tick('large', w.largeType)}
        {tick('metric', w.metric)}
        {tick('vibrate', w.vibrate)}
        {tick('left', w.leftHand)}
        <Segmented
          aria-label={w.language}
          value={languageNow()}
          options={[
            { value: 'en', label: 'English' },
            { value: 'de', label: 'Deutsch' },
          ]}
          onChange={(language: Language) => {
            onChange({ language });
            location.reload();
          }}
        />
      </Fold>
    </>
  );
}

function MyKit({ connection, student, tubes, ways }: NonNullable<Props['own']>) {
  const { id: studentId, kit, has } = student;
  const say = (change: { kit?: string[]; has?: Student['has'] }) =>
    void connection.say({ type: 'kit', studentId, kit: change.kit ?? kit, has: change.has ?? has });
  return (
    <Fold className={css.followSettings} head={w.myKit}>
      <Tubes tubes={tubes} lacking={lackingIn(tubes, kit)} onLacking={(lacking) => say({ kit: kitWithout(tubes, lacking) })} />
      <AtHand helpers={helpersOf(ways ? { ways } : {})} has={has} onHas={(next) => say({ has: next })} />
    </Fold>
  );
}
