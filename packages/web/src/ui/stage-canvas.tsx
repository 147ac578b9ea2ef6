import type { FollowSheet, PaintLayer } from '@viaticum/contract';
import type { Rung } from '@viaticum/core/step';
import { useId } from 'react';
import { brokenStrokes, TILE } from './broken-colour.js';
import { labelPlaces } from './label-places.js';
import { TexturePattern, textureOf } from './textures.js';

/** A layer and how much of it is laid (0-1), from the top of its area down. */
export type ShownLayer = PaintLayer & { laid: number };
export type AreaWetness = { areaId: string; rung: Rung; label?: string };

/** A border as a path, and what it asks: nothing, softness, or a wait. */
export type TouchedBorder = { path: string; asks: 'nothing' | 'softness' | 'wait' };

type Props = {
  sheet: FollowSheet;
  layers: readonly ShownLayer[];
  /** The canvas as it was painted so far, beneath the layers. */
  picture?: string;
  /** All layers, where `layers` holds only those over the picture: wetness shows in their colours. */
  allLayers?: readonly ShownLayer[];
  wetness?: readonly AreaWetness[];
  outlines?: boolean;
  /** Borders that the step at hand touches, drawn over all. */
  borders?: readonly TouchedBorder[];
  className?: string;
  label: string;
  /** Width in screen pixels, for textures and labels of a steady size. */
  shownPx?: number;
};

const lastRgb = (layers: readonly ShownLayer[], areaId: string): string | null => {
  const own = layers.filter(
    (layer) => layer.areaId === areaId && layer.laid > 0 && layer.kind !== 'broken' && layer.kind !== 'line',
  );
  return own.at(-1)?.colours.at(-1) ?? null;
};

/** The canvas at a moment: what each step has laid so far, with wetness and outlines on demand. Units are canvas mm. */
export function StageCanvas({
  sheet,
  layers,
  allLayers = layers,
  picture,
  wetness = [],
  outlines = false,
  borders = [],
  className,
  label,
  shownPx = 300,
}: Props) {
  const id = useId().replace(/[^a-z0-9]/gi, '');
  const { widthMm, heightMm, bareRgb } = sheet.canvas;
  const unit = widthMm / shownPx;
  const areas = new Map(sheet.areas.map((area) => [area.id, area]));
  return (
    // biome-ignore lint/a11y/noSvgWithoutTitle: named by its label, hidden where it has none
    <svg
      className={className}
      viewBox={`0 0 ${widthMm} ${heightMm}`}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
    >
      <defs>
        <pattern id={`${id}weave`} width={2.3} height={2.3} patternUnits="userSpaceOnUse">
          <path d="M0 .6h1.1M1.2 1.7h1.1" stroke="var(--grey-0)" strokeOpacity=".07" strokeWidth=".5" />
          <path d="M.6 1.2v1.1M1.7 0v1.1" stroke="var(--white)" strokeOpacity=".1" strokeWidth=".5" />
        </pattern>
        {layers.map((layer, i) => (
          <LayerPaint key={key(layer, i)} id={`${id}p${i}`} layer={layer} />
        ))}
        {layers.map((layer, i) => {
          const area = areas.get(layer.areaId);
          return layer.laid < 1 && area ? (
            <clipPath key={key(layer, i)} id={`${id}c${i}`}>
              <rect x={0} y={area.top} width={widthMm} height={(area.bottom - area.top) * layer.laid} />
            </clipPath>
          ) : null;
        })}
        {wetness.map((wet, i) => {
          const kind = textureOf(wet.rung);
          const rgb = lastRgb(allLayers, wet.areaId);
          return kind && rgb ? (
            <TexturePattern key={wet.areaId} id={`${id}w${i}`} kind={kind} rgb={rgb} unit={unit * 1.4} />
          ) : null;
        })}
      </defs>
      <rect width={widthMm} height={heightMm} fill={bareRgb} />
      {picture && <image href={picture} width={widthMm} height={heightMm} preserveAspectRatio="none" />}
      {layers.map((layer, i) => {
        const area = areas.get(layer.areaId);
        if (!area || layer.laid === 0) return null;
        const paint = fill(layer, `${id}p${i}`);
        const clip = layer.laid < 1 ? { clipPath: `url(#${id}c${i})` } : {};
        // The hairline in the paint's own colour closes the seam that two anti-aliased edges would leave.
        return layer.kind === 'line' ? (
          <path
            key={key(layer, i)}
            d={area.path}
            fill="none"
            stroke={layer.colours[0]}
            strokeWidth={Math.max(0.9, unit * 0.9)}
            strokeOpacity={0.7}
            {...clip}
          />
        ) : (
          <path
            key={key(layer, i)}
            d={area.path}
            fillRule="evenodd"
            fill={paint}
            stroke={layer.kind === 'broken' ? 'none' : paint}
            strokeWidth={0.7}
            {...clip}
          />
        );
      })}
      <rect width={widthMm} height={heightMm} fill={`url(#${id}weave)`} />
      {wetness.map((wet, i) =>
        textureOf(wet.rung) && lastRgb(allLayers, wet.areaId) ? (
          <path
            key={wet.areaId}
            d={areas.get(wet.areaId)?.path ?? ''}
            fillRule="evenodd"
            fill={`url(#${id}w${i})`}
            opacity={0.75}
          />
        ) : null,
      )}
      {outlines &&
        sheet.areas.map((area) => (
          <path key={area.id} d={area.path} fill="none" stroke="var(--grey-18)" strokeOpacity={0.75} strokeWidth={unit * 1.1} />
        ))}
      {borders.map((border) => (
        <g key={border.path} data-asks={border.asks}>
          <path d={border.path} fill="none" stroke="var(--white)" strokeWidth={unit * 4} strokeOpacity={0.7} />
          <path
            d={border.path}
            fill="none"
            stroke={border.asks === 'wait' ? 'var(--signal)' : 'var(--grey-18)'}
            strokeWidth={unit * (border.asks === 'wait' ? 2.6 : 1.4)}
            {...(border.asks === 'softness' ? { strokeDasharray: `${unit * 5} ${unit * 3}` } : {})}
          />
        </g>
      ))}
      <Labels wetness={wetness} sheet={sheet} unit={unit} />
    </svg>
  );
}

const key = (layer: ShownLayer, i: number) => `${layer.areaId}${i}`;
const fill = (layer: ShownLayer, id: string) =>
  layer.kind === 'flat' && layer.colours.length < 2 ? (layer.colours[0] ?? 'none') : `url(#${id})`;

function LayerPaint({ id, layer }: { id: string; layer: ShownLayer }) {
  const [first = 'none', second] = layer.colours;
  if (layer.kind === 'blend') {
    const last = Math.max(1, layer.colours.length - 1);
    return (
      <linearGradient id={id} x1="0" y1="0" x2="0" y2="0.62">
        {layer.colours.map((colour, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the order of colours is what they are
          <stop key={i} offset={i / last} stopColor={colour} />
        ))}
      </linearGradient>
    );
  }
  if (layer.kind === 'line' || (layer.kind === 'flat' && !second)) return null;
  const seed = layer.areaId.charCodeAt(0) + layer.areaId.length;
  const share = layer.kind === 'broken' ? layer.share : 0.35;
  return (
    <pattern id={id} width={TILE.width} height={TILE.height} patternUnits="userSpaceOnUse" patternTransform="rotate(-3)">
      {layer.kind === 'flat' && <rect width={TILE.width} height={TILE.height} fill={first} />}
      <path
        d={brokenStrokes(share, seed)}
        stroke={layer.kind === 'flat' ? second : first}
        strokeWidth={3.4}
        strokeLinecap="round"
        fill="none"
      />
    </pattern>
  );
}

/** What is wet, each word by its area, none on another. */
function Labels({ wetness, sheet, unit }: { wetness: readonly AreaWetness[]; sheet: FollowSheet; unit: number }) {
  const { widthMm, heightMm } = sheet.canvas;
  const areas = new Map(sheet.areas.map((area) => [area.id, area]));
  const size = 12.5 * unit;
  const wanted = wetness.flatMap(({ areaId, label }) => {
    const area = areas.get(areaId);
    if (!label || !area) return [];
    return [{ areaId, label, y: Math.max(size * 1.2, (area.top + Math.min(area.bottom, area.top + 60)) / 2) }];
  });
  return labelPlaces(wanted, heightMm - size * 0.5, size * 1.6).map(({ areaId, label, y }) => (
    <g key={areaId} transform={`translate(${widthMm * 0.04} ${y})`}>
      <rect
        x={0}
        y={-size}
        width={label.length * size * 0.53 + size}
        height={size * 1.45}
        rx={size * 0.15}
        fill="var(--grey-97)"
        opacity={0.94}
      />
      <text x={size * 0.5} y={size * 0.06} fontSize={size} fill="var(--grey-12)">
        {label}
      </text>
    </g>
  ));
}
