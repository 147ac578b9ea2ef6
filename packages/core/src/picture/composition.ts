import type { Outline } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { valueStep } from '@viaticum/kernels/colour';
import { connectedParts, type Labels, type LabRaster, labelMeans } from '@viaticum/kernels/raster';
import { outlineArea, outlineBox } from '../area/index.js';
import { capital, counted, hueOf, the, verb } from '../units/index.js';
import { traceArcs } from './outline/index.js';

/** One measure of the composition: what was found, with its number and the reason, and the areas it speaks of. */
export type CompositionNote = {
  kind:
    | 'weight'
    | 'subject-centre'
    | 'subject-edge'
    | 'horizon'
    | 'even-count'
    | 'unbroken-line'
    | 'bright-edge'
    | 'tangent'
    | 'balance'
    | 'lonely-hue'
    | 'facing'
    | 'lean';
  /** Whether common practice would change it; the others are facts to know. */
  worth: boolean;
  text: string;
  reason: string;
  areaIds: string[];
  /** Of a line: how far it climbs, as a share of the width. */
  slope?: number;
  /** A place to look at, in mm. */
  at?: [number, number];
};

export type ComposedArea = {
  /** Its whole sheet, where that is more than what is seen. */
  sheet?: Outline | undefined;
  id: string;
  name: string;
  outline: Outline;
  facing?: 'left' | 'right' | undefined;
  thingName?: string | undefined;
};

const percent = (share: number) => `${Math.round(share * 100)} %`;
const TANGENT_MM = 2.5;
const MOST_TANGENTS = 5;

/**
 * Measures of the composition, each as a finding beside the picture with its number and reason, never a score. `areas`: visible
 * parts back to front; `map`: which area is seen at every pixel (its place in `areas`, -1 where none). The reasons are common
 * practice, no published source.
 */
export function compositionNotes(
  lab: LabRaster,
  map: Labels,
  areas: readonly ComposedArea[],
  mmPerPx: number,
  subjectId: string | undefined,
): CompositionNote[] {
  const { width, height } = lab;
  const size = { widthMm: width * mmPerPx, heightMm: height * mmPerPx };
  return [
    ...weight(lab, size, mmPerPx),
    ...subject(areas, size, subjectId),
    ...lines(map, areas, size, mmPerPx),
    ...counts(areas, size),
    ...brightEdge(lab, size, mmPerPx),
    ...tangents(areas, size),
    ...balance(lab),
    ...lonelyHue(lab, map, areas),
    ...facing(areas, size),
  ];
}
type Size = { widthMm: number; heightMm: number };

/** Centre of visual weight: pixels weigh by how far they stand out from the mean in value, and by their chroma. */
function weight({ width, height, l, a, b }: LabRaster, size: Size, mmPerPx: number): CompositionNote[] {
  let mean = 0;
  for (const value of l) mean += value;
  mean /= l.length;
  let [sx, sy, sum] = [0, 0, 0];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const w = Math.abs((l[at] as number) - mean) + 0.5 * Math.hypot(a[at] as number, b[at] as number);
      sx += w * x;
      sy += w * y;
      sum += w;
    }
  if (sum <= 1e-3 * l.length) return [];
  const [x, y] = [((sx / sum + 0.5) * mmPerPx) / size.widthMm, ((sy / sum + 0.5) * mmPerPx) / size.heightMm];
  const [dx, dy] = [x - 0.5, y - 0.5];
  const where = [
    Math.abs(dx) >= 0.015 ? `${percent(Math.abs(dx))} ${dx < 0 ? say('left') : say('right')}` : '',
    Math.abs(dy) >= 0.015 ? `${percent(Math.abs(dy))} ${dy < 0 ? say('above') : say('below')}` : '',
  ].filter(Boolean);
  return [
    {
      kind: 'weight',
      worth: Math.abs(dx) > 0.12,
      text:
        where.length > 0
          ? say`The weight of the picture lies ${where.join(' and ')} of its middle.`
          : say('The weight of the picture lies in its middle.'),
      reason: say('Strong values and colours pull the eye; far to one side the picture tips.'),
      areaIds: [],
      at: [x * size.widthMm, y * size.heightMm],
    },
  ];
}

function subject(areas: readonly ComposedArea[], size: Size, id: string | undefined): CompositionNote[] {
  const area = areas.find((one) => one.id === id);
  const box = area && outlineBox(area.outline);
  if (!area || !box) return [];
  const [x, y] = [(box.x + box.width / 2) / size.widthMm, (box.y + box.height / 2) / size.heightMm];
  const off = Math.hypot(x - 0.5, y - 0.5);
  const nearest = Math.min(box.x, box.y, size.widthMm - box.x - box.width, size.heightMm - box.y - box.height);
  const notes: CompositionNote[] = [
    {
      kind: 'subject-centre',
      worth: off < 0.06,
      text: say`The ${area.name} ${verb(area.name, 'stands', 'stand')} ${percent(off)} of the way off the middle.`,
      reason: say('A subject in the very middle makes a still, divided picture.'),
      areaIds: [area.id],
      at: [x * size.widthMm, y * size.heightMm],
    },
  ];
  const isCut = nearest < 0.5;
  if (!isCut && nearest < 0.04 * Math.min(size.widthMm, size.heightMm))
    notes.push({
      kind: 'subject-edge',
      worth: true,
      text: say`The ${area.name} ${verb(area.name, 'comes', 'come')} within ${Math.round(nearest)} mm of the edge.`,
      reason: say('A subject that just misses the edge looks cramped; let it be cut, or give it air.'),
      areaIds: [area.id],
    });
  return notes;
}

/** Borders that run from the left edge to the right: the horizon among them, and lines that nothing breaks. */
function lines(map: Labels, areas: readonly ComposedArea[], size: Size, mmPerPx: number): CompositionNote[] {
  const notes: CompositionNote[] = [];
  const found: { y: number; one: number; other: number; slope: number }[] = [];
  for (const arc of traceArcs(map)) {
    if (arc.left < 0 || arc.right < 0 || arc.closed) continue;
    const [a, b] = [arc.points[0] as [number, number], arc.points.at(-1) as [number, number]];
    const ends = [a[0], b[0]].sort((p, q) => p - q);
    if ((ends[0] as number) > 0 || (ends[1] as number) < map.width) continue;
    const ys = arc.points.map(([, y]) => y);
    found.push({
      y: ys.reduce((sum, y) => sum + y, 0) / ys.length,
      one: arc.left,
      other: arc.right,
      slope: (Math.max(...ys) - Math.min(...ys)) / map.width,
    });
  }
  found.sort((p, q) => p.y - q.y);
  const flat = found.filter((line) => line.slope < 0.12);
  const [horizon] = flat;
  if (horizon) {
    const share = 1 - horizon.y / map.height;
    notes.push({
      kind: 'horizon',
      worth: share > 0.45 && share < 0.55,
      text: say`The first line across lies at ${percent(share)} of the height.`,
      reason: say('A horizon across the middle halves the picture; low or high lets sky or land lead.'),
      areaIds: [areas[horizon.one]?.id, areas[horizon.other]?.id].filter((id): id is string => Boolean(id)),
      at: [size.widthMm / 2, horizon.y * mmPerPx],
    });
  }
  const pairs = new Map<string, typeof found>();
  for (const line of found) {
    const key = [line.one, line.other].sort((p, q) => p - q).join();
    pairs.set(key, [...(pairs.get(key) ?? []), line]);
  }
  for (const group of pairs.values()) {
    const [line] = group as [(typeof found)[number]];
    const between = say`${areas[line.one]?.name ?? say('one area')} and ${areas[line.other]?.name ?? say('another')}`;
    notes.push({
      kind: 'unbroken-line',
      worth: true,
      slope: line.slope,
      text:
        group.length === 1
          ? say`Between ${between} a line runs unbroken from edge to edge.`
          : say`Between ${between} ${counted(group.length, 'line')} ${group.length === 1 ? 'runs' : 'run'} unbroken from edge to edge.`,
      reason: say('The eye slides along such a line and out; let something cross it, or lose it for a stretch.'),
      areaIds: [areas[line.one]?.id, areas[line.other]?.id].filter((id): id is string => Boolean(id)),
      at: [size.widthMm / 2, line.y * mmPerPx],
    });
  }
  return notes;
}

const ROUND_DEG = 8;
const ROUND_SHARE = 0.06;
/** Whether parts stand evenly round a middle: six arms of a star are six. */
function isRound(parts: readonly Outline[number][]): boolean {
  const at = parts.flatMap((polygon): [number, number][] => {
    const box = outlineBox([polygon]);
    return box ? [[box.x + box.width / 2, box.y + box.height / 2]] : [];
  });
  if (at.length < 3) return false;
  const [cx, cy] = [0, 1].map((axis) => at.reduce((sum, p) => sum + (p[axis] as number), 0) / at.length) as [number, number];
  const far = at.map(([x, y]) => Math.hypot(x - cx, y - cy));
  const mean = far.reduce((sum, r) => sum + r, 0) / far.length;
  if (mean === 0 || far.some((r) => Math.abs(r / mean - 1) > ROUND_SHARE)) return false;
  const angles = at.map(([x, y]) => (Math.atan2(y - cy, x - cx) * 180) / Math.PI).sort((a, b) => a - b);
  return angles.every((angle, i) => {
    const next = i + 1 < angles.length ? (angles[i + 1] as number) : (angles[0] as number) + 360;
    return Math.abs(next - angle - 360 / angles.length) < ROUND_DEG;
  });
}

const NUMBERS = ['two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
/** "Two mugs" are meant to be two. */
const saysCount = (name: string, n: number): boolean =>
  name
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .some((word) => word === String(n) || word === NUMBERS[n - 2]);

function counts(areas: readonly ComposedArea[], size: Size): CompositionNote[] {
  return areas.flatMap((area): CompositionNote[] => {
    const areas = (area.sheet ?? area.outline).map((polygon) => outlineArea([polygon]));
    const largest = Math.max(0, ...areas);
    // Like things are of about one size; a handle is not a second cup.
    const parts = areas.filter((area) => area > largest / 8 && area > 0.0006 * size.widthMm * size.heightMm);
    const n = parts.length;
    const isMeant =
      isRound((area.sheet ?? area.outline).filter((_, i) => parts.includes(areas[i] as number))) || saysCount(area.name, n);
    if (n < 2) return [];
    return [
      {
        kind: 'even-count',
        worth: n % 2 === 0 && n < 7 && !isMeant,
        text: `${capital(area.name)}: ${counted(n, 'part')}.`,
        reason: say('Odd numbers of like things look less arranged than even ones.'),
        areaIds: [area.id],
      },
    ];
  });
}

/** The largest patch among the lightest two in a hundred pixels: near an edge it leads out of the picture. */
function brightEdge({ width, height, l }: LabRaster, size: Size, mmPerPx: number): CompositionNote[] {
  const sorted = Float32Array.from(l).sort();
  const limit = sorted[Math.floor(sorted.length * 0.98)] as number;
  const mask = { width, height, data: Int32Array.from(l, (value) => (value >= limit ? 1 : 0)) };
  const { parts, labelOf, sizeOf, count } = connectedParts(mask);
  let best = -1;
  for (let part = 0; part < count; part++)
    if (labelOf[part] === 1 && (best < 0 || (sizeOf[part] as number) > (sizeOf[best] as number))) best = part;
  if (best < 0) return [];
  let [sx, sy, n] = [0, 0, 0];
  for (let at = 0; at < parts.data.length; at++)
    if (parts.data[at] === best) {
      sx += at % width;
      sy += Math.floor(at / width);
      n++;
    }
  const [x, y] = [(sx / n + 0.5) * mmPerPx, (sy / n + 0.5) * mmPerPx];
  const share = Math.min(x / size.widthMm, 1 - x / size.widthMm, y / size.heightMm, 1 - y / size.heightMm);
  return [
    {
      kind: 'bright-edge',
      worth: share < 0.1,
      text: say`The lightest place (value ${valueStep(limit).toFixed(1)}) lies ${percent(share)} in from the nearest edge.`,
      reason: say('The eye goes to the lightest place first; at an edge it leads out.'),
      areaIds: [],
      at: [x, y],
    },
  ];
}

/** Outlines that just touch: the highest, lowest or outermost point of one within 2.5 mm of another's, or of the canvas's edge. */
function tangents(areas: readonly ComposedArea[], size: Size): CompositionNote[] {
  type Tip = { area: ComposedArea; at: [number, number]; side: 0 | 1 | 2 | 3 };
  const tips: Tip[] = areas.flatMap((area) =>
    area.outline.flatMap((polygon) => {
      const ring = outlineArea([polygon]) > 0.002 * size.widthMm * size.heightMm ? (polygon[0] ?? []) : [];
      const best = (score: (p: [number, number]) => number) =>
        ring.reduce((m, p) => (score(p) > score(m) ? p : m), ring[0] as [number, number]);
      return ring.length < 3
        ? []
        : ([best((p) => -p[1]), best((p) => p[0]), best((p) => p[1]), best((p) => -p[0])] as const).map(
            (at, side): Tip => ({ area, at, side: side as 0 }),
          );
    }),
  );
  // What runs off the canvas somewhere does not come near its edge by accident.
  const edged = new Set(
    tips
      .filter(({ at }) => Math.min(at[0], at[1], size.widthMm - at[0], size.heightMm - at[1]) <= 0.4)
      .map(({ area }) => area.id),
  );
  const notes: CompositionNote[] = [];
  const seen = new Set<string>();
  const add = (key: string, note: CompositionNote) => {
    if (seen.has(key)) return;
    seen.add(key);
    notes.push(note);
  };
  for (const { area, at, side } of tips) {
    const gap = [at[1], size.widthMm - at[0], size.heightMm - at[1], at[0]][side] as number;
    if (gap > 0.4 && gap < TANGENT_MM && !edged.has(area.id))
      add(`${area.id}:edge`, {
        kind: 'tangent',
        worth: true,
        text: say`${capital(area.name)}: ${gap.toFixed(1)} mm from the edge of the canvas, all but touching it.`,
        reason: say('Things that just touch flatten the space; overlap them or part them.'),
        areaIds: [area.id],
        at,
      });
    // Tips of different things that meet from opposite sides.
    for (const other of tips) {
      if (other.area === area || other.side !== (side + 2) % 4) continue;
      const distance = Math.hypot(other.at[0] - at[0], other.at[1] - at[1]);
      if (distance > TANGENT_MM) continue;
      add([area.id, other.area.id].sort().join(':'), {
        kind: 'tangent',
        worth: true,
        text: say`${capital(area.name)} ends just on ${other.area.name}.`,
        reason: say('Things that just touch flatten the space; overlap them or part them.'),
        areaIds: [area.id, other.area.id],
        at,
      });
    }
  }
  return notes.slice(0, MOST_TANGENTS);
}

function balance({ width, height, l, a, b }: LabRaster): CompositionNote[] {
  const half = { l: [0, 0], c: [0, 0], n: [0, 0] };
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const side = x * 2 < width ? 0 : 1;
      half.l[side] = (half.l[side] as number) + (l[at] as number);
      half.c[side] = (half.c[side] as number) + Math.hypot(a[at] as number, b[at] as number);
      half.n[side] = (half.n[side] as number) + 1;
    }
  if (!half.n[1]) return [];
  const mean = (list: number[], side: number) => (list[side] as number) / (half.n[side] as number);
  const steps = valueStep(mean(half.l, 0)) - valueStep(mean(half.l, 1));
  const chroma = mean(half.c, 0) - mean(half.c, 1);
  const differences = [
    Math.abs(steps) >= 0.15 ? say`${Math.abs(steps).toFixed(1)} steps ${steps > 0 ? say('lighter') : say('darker')}` : '',
    Math.abs(chroma) >= 3 ? (chroma > 0 ? say('stronger in colour') : say('duller')) : '',
  ].filter(Boolean);
  return [
    {
      kind: 'balance',
      worth: Math.abs(steps) > 1.5,
      text:
        differences.length > 0
          ? say`The left half is ${differences.join(' and ')} than the right.`
          : say('Both halves are as light and as strongly coloured.'),
      reason: say('A heavy half can be balanced by a small strong accent in the other.'),
      areaIds: [],
    },
  ];
}

/** A hue that occurs in one area only: an accent, or a stranger. */
function lonelyHue(lab: LabRaster, map: Labels, areas: readonly ComposedArea[]): CompositionNote[] {
  const family = labelMeans(map, lab, areas.length).map((mean) =>
    mean && Math.hypot(mean[1], mean[2]) >= 14 ? hueOf(mean[1], mean[2]) : '',
  );
  return areas.flatMap((area, i): CompositionNote[] => {
    if (!family[i] || family.filter((one) => one === family[i]).length > 1) return [];
    return [
      {
        kind: 'lonely-hue',
        worth: false,
        text: say`Only ${the(area.name)} ${verb(area.name, 'is', 'are')} ${family[i]}.`,
        reason: say('A colour that stands alone is an accent; a touch of it elsewhere ties it in.'),
        areaIds: [area.id],
      },
    ];
  });
}

/** Facing set by hand, and the lean of a thing by its longer axis: into the picture or out of it. */
function facing(areas: readonly ComposedArea[], size: Size): CompositionNote[] {
  return areas.flatMap((area): CompositionNote[] => {
    const box = outlineBox(area.outline);
    if (!box) return [];
    const middle = (box.x + box.width / 2) / size.widthMm;
    const notes: CompositionNote[] = [];
    if (area.facing) {
      const out = (area.facing === 'left' && middle < 0.42) || (area.facing === 'right' && middle > 0.58);
      notes.push({
        kind: 'facing',
        worth: out,
        text: say`The ${area.thingName ?? area.name} looks ${out ? say('out of') : say('into')} the picture.`,
        reason: say('The eye follows a look; give it room on the side it goes.'),
        areaIds: [area.id],
      });
    }
    if (area.thingName && area.outline.length > 0) {
      const lean = leanOf(area.outline);
      if (lean && Math.abs(lean) > 4 && Math.abs(lean) < 40) {
        const out = (lean < 0 && middle < 0.42) || (lean > 0 && middle > 0.58);
        notes.push({
          kind: 'lean',
          worth: out,
          text: say`${capital(the(area.name))} ${verb(area.name, 'leans', 'lean')} ${Math.round(Math.abs(lean))}° to the ${lean < 0 ? say('left') : say('right')}${out ? say(', out of the picture') : ''}.`,
          reason: say('What leans out leads out; what leans in holds the eye.'),
          areaIds: [area.id],
        });
      }
    }
    return notes;
  });
}

/** Lean of a thing's longer axis from upright, degrees, positive to the right; null where it has no longer axis. */
export function leanOf(outline: Outline): number | null {
  let [n, sx, sy] = [0, 0, 0];
  const points = outline.flatMap((polygon) => resampled(polygon[0] ?? []));
  for (const [x, y] of points) {
    sx += x;
    sy += y;
    n++;
  }
  if (n < 3) return null;
  let [xx, xy, yy] = [0, 0, 0];
  for (const [x, y] of points) {
    const [dx, dy] = [x - sx / n, y - sy / n];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  const spread = Math.hypot(xx - yy, 2 * xy) / (xx + yy);
  if (spread < 0.2) return null;
  const axis = (0.5 * Math.atan2(2 * xy, xx - yy) * 180) / Math.PI; // of the longer axis, from x towards y (down)
  const lean = axis > 0 ? axis - 90 : axis + 90;
  return Math.abs(lean) > 60 ? null : lean;
}

function resampled(ring: readonly [number, number][]): [number, number][] {
  return ring.flatMap(([x1, y1], i) => {
    const [x2, y2] = ring[(i + 1) % ring.length] as [number, number];
    const pieces = Math.max(1, Math.round(Math.hypot(x2 - x1, y2 - y1) / 3));
    return Array.from({ length: pieces }, (_, k): [number, number] => [
      x1 + ((x2 - x1) * k) / pieces,
      y1 + ((y2 - y1) * k) / pieces,
    ]);
  });
}
