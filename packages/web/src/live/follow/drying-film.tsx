import type { FollowSheet, PlanCoat } from '@viaticum/contract';
import { rungAt, rungWord } from '@viaticum/core/step';
import { useId } from 'react';
import { TexturePattern, textureOf } from '../../ui/textures.js';

const WIDTH = 340;
const HEIGHT = 74;

/** The film that a pause waits for, as a cut through the paint: it sinks and its texture calms as the water leaves. */
export function DryingFilm({
  coat,
  sheet,
  minute,
  name,
}: {
  coat: PlanCoat;
  sheet: FollowSheet;
  minute: number;
  /** What dries. */
  name: string;
}) {
  const id = useId().replace(/[^a-z0-9]/gi, '');
  const since = Math.max(0, minute - coat.laidToMin);
  const { rung } = rungAt(coat, since);
  const rgb =
    sheet.steps[coat.stepId]?.layers.find((layer) => layer.areaId === coat.areaId)?.colours.at(-1) ?? 'rgb(150 150 150)';
  const goal = coat.touchDryMin ?? coat.paintOverMin ?? 30;
  const gone = Math.min(1, since / goal);
  const ratio = coat.dryUm / coat.wetUm;
  const top = (HEIGHT - 14) * (1 - (ratio + (1 - ratio) * (1 - gone)));
  const kind = textureOf(rung);
  const path = `M0 ${top + 6 + 10}C60 ${top + 2} 110 ${top + 18} 170 ${top + 10}S290 ${top + 2} ${WIDTH} ${top + 13}V${HEIGHT - 8}H0Z`;
  return (
    <figure className="drying-film">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" role="img" aria-label={`${name} ${rungWord[rung]}`}>
        <defs>{kind && <TexturePattern id={id} kind={kind} rgb={rgb} unit={1.7} />}</defs>
        <rect y={HEIGHT - 8} width={WIDTH} height={8} fill="var(--canvas-edge)" />
        <path d={path} fill={rgb} />
        {kind && <path d={path} fill={`url(#${id})`} />}
      </svg>
      <figcaption>
        {name} <b>{rungWord[rung]}</b>
      </figcaption>
    </figure>
  );
}
