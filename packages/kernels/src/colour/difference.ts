type Lab = readonly [number, number, number];
const degree = Math.PI / 180;

/**
 * CIEDE2000 colour difference of two L*a*b* colours, kL = kC = kH = 1.
 * Source: CIE 142-2001; notation of Sharma, Wu, Dalal 2005.
 */
export function deltaE00(first: Lab, second: Lab): number {
  return deltaE00Of(first[0], first[1], first[2], second[0], second[1], second[2]);
}

/** {@link deltaE00} of six numbers, for searches over millions of colours. */
export function deltaE00Of(l1: number, a1: number, b1: number, l2: number, a2: number, b2: number): number {
  const meanC7 = ((Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2) ** 7;
  const g = 0.5 * (1 - Math.sqrt(meanC7 / (meanC7 + 25 ** 7)));
  const a1p = (1 + g) * a1;
  const a2p = (1 + g) * a2;
  const c1 = Math.hypot(a1p, b1);
  const c2 = Math.hypot(a2p, b2);
  const h1 = hueDegrees(a1p, b1);
  const h2 = hueDegrees(a2p, b2);
  const dL = l2 - l1;
  const dC = c2 - c1;
  let dh = 0;
  if (c1 * c2 !== 0) {
    dh = h2 - h1;
    if (dh > 180) dh -= 360;
    else if (dh < -180) dh += 360;
  }
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((dh / 2) * degree);
  const meanL = (l1 + l2) / 2;
  const meanC = (c1 + c2) / 2;
  let meanH = h1 + h2;
  if (c1 * c2 !== 0) {
    if (Math.abs(h1 - h2) <= 180) meanH /= 2;
    else meanH = (meanH < 360 ? meanH + 360 : meanH - 360) / 2;
  }
  const t =
    1 -
    0.17 * Math.cos((meanH - 30) * degree) +
    0.24 * Math.cos(2 * meanH * degree) +
    0.32 * Math.cos((3 * meanH + 6) * degree) -
    0.2 * Math.cos((4 * meanH - 63) * degree);
  const off = (meanL - 50) ** 2;
  const sL = 1 + (0.015 * off) / Math.sqrt(20 + off);
  const sC = 1 + 0.045 * meanC;
  const sH = 1 + 0.015 * meanC * t;
  const c7 = meanC ** 7;
  const rT = -Math.sin(60 * Math.exp(-(((meanH - 275) / 25) ** 2)) * degree) * 2 * Math.sqrt(c7 / (c7 + 25 ** 7));
  return Math.sqrt((dL / sL) ** 2 + (dC / sC) ** 2 + (dH / sH) ** 2 + rT * (dC / sC) * (dH / sH));
}

/** Hue angle in degrees 0-360; 0 for a neutral. */
export function hueDegrees(a: number, b: number): number {
  if (a === 0 && b === 0) return 0;
  const h = Math.atan2(b, a) / degree;
  return h < 0 ? h + 360 : h;
}

const hueNames: readonly [number, string][] = [
  [0, 'pink'],
  [28, 'red'],
  [58, 'orange'],
  [88, 'yellow'],
  [125, 'yellow-green'],
  [160, 'green'],
  [205, 'blue-green'],
  [265, 'blue'],
  [305, 'violet'],
  [335, 'magenta'],
  [360, 'pink'],
];

/** The painter's name nearest to a hue angle in degrees. */
export function hueName(degrees: number): string {
  let best = hueNames[0] as readonly [number, string];
  for (const name of hueNames) if (Math.abs(name[0] - degrees) < Math.abs(best[0] - degrees)) best = name;
  return best[1];
}

/** Grades of a difference, smallest first: up to `limit` the word is used, `''` where nothing is said. */
const grades: readonly { limit: number; lightness: [string, string]; chroma: [string, string]; hue: string }[] = [
  { limit: 1, lightness: ['', ''], chroma: ['', ''], hue: '' },
  { limit: 3, lightness: ['a little dark', 'a little light'], chroma: ['a little dull', 'a little strong'], hue: 'slightly' },
  { limit: 8, lightness: ['too dark', 'too light'], chroma: ['too dull', 'too strong'], hue: 'too' },
  {
    limit: Number.POSITIVE_INFINITY,
    lightness: ['much too dark', 'much too light'],
    chroma: ['much too dull', 'much too strong'],
    hue: 'much too',
  },
];
const gradeOf = (size: number) => grades.find((grade) => size <= grade.limit) as (typeof grades)[number];

/**
 * What is off in a mixed colour, in a painter's words ("slightly green, a little dark"), from the signs and sizes of the
 * CIEDE2000 parts: lightness, strength (chroma) and hue. Within ΔE00 1 the answer is "the same to the eye".
 */
export function differenceInWords(target: Lab, mixed: Lab): string {
  const total = deltaE00(target, mixed);
  if (total <= 1) return 'the same to the eye';
  const meanL = (target[0] + mixed[0]) / 2;
  const lightness = (mixed[0] - target[0]) / (1 + (0.015 * (meanL - 50) ** 2) / Math.sqrt(20 + (meanL - 50) ** 2));
  const chromaTarget = Math.hypot(target[1], target[2]);
  const chromaMixed = Math.hypot(mixed[1], mixed[2]);
  const meanC = (chromaTarget + chromaMixed) / 2;
  const words: string[] = [];
  const da = mixed[1] - target[1];
  const db = mixed[2] - target[2];
  if (chromaTarget < 6) {
    const cast = gradeOf(Math.hypot(da, db));
    if (cast.hue) words.push(`${cast.hue} ${hueName(hueDegrees(da, db))}`);
  } else {
    const chroma = (chromaMixed - chromaTarget) / (1 + 0.045 * meanC);
    let turn = hueDegrees(mixed[1], mixed[2]) - hueDegrees(target[1], target[2]);
    if (turn > 180) turn -= 360;
    else if (turn < -180) turn += 360;
    const hue = (2 * Math.sqrt(chromaTarget * chromaMixed) * Math.sin((turn / 2) * degree)) / (1 + 0.015 * meanC);
    const hueGrade = gradeOf(Math.abs(hue));
    if (hueGrade.hue) words.push(`${hueGrade.hue} ${neighbourHue(hueDegrees(target[1], target[2]), Math.sign(turn))}`);
    const strength = gradeOf(Math.abs(chroma)).chroma[chroma > 0 ? 1 : 0];
    if (strength) words.push(strength);
  }
  const light = gradeOf(Math.abs(lightness)).lightness[lightness > 0 ? 1 : 0];
  if (light) words.push(light);
  return words.length > 0 ? words.join(', ') : 'close';
}

/** The next of the six principal hues when turning from an angle in one direction. */
function neighbourHue(from: number, direction: number): string {
  const principal: readonly [number, string][] = [
    [28, 'red'],
    [58, 'orange'],
    [88, 'yellow'],
    [160, 'green'],
    [265, 'blue'],
    [320, 'violet'],
  ];
  const turns = principal.map(([angle, name]) => ({ name, turn: ((((angle - from) * direction) % 360) + 360) % 360 }));
  turns.sort((a, b) => a.turn - b.turn);
  return (turns.find(({ turn }) => turn > 12) ?? (turns[0] as { name: string })).name;
}

/** CIE L* on a painter's scale of ten steps, 1 = black, 10 = white (L* 0 → 1, L* 100 → 10, linear). */
export function valueStep(lightness: number): number {
  return 1 + (9 * lightness) / 100;
}
