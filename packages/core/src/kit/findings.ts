import type { Lesson, Studio } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { brushes, brushInWords, brushOf } from '../brush/index.js';
import type { CommandArgs, CommandName } from '../document/index.js';
import { layingsOf } from '../heap/index.js';
import { isWhite, shortTubeName } from '../mix/index.js';
import { counted, listInWords, minutesInWords } from '../units/index.js';
import { mlInWords } from './bring.js';
import { paysFrom } from './money.js';
import { type KitPaint, runsOutOfTen } from './paint.js';
import { groupOf } from './parts.js';
import { kitRoom } from './room.js';
import { brushfulOf, brushKeepsMl, losses } from './volumes.js';

/** Something that the kit shows before the class does: what it is, and an act that mends it where there is one. */
export type KitFinding = {
  key: string;
  words: string;
  fix?: { words: string } & { [N in CommandName]: { command: N; args: CommandArgs<N> } }[CommandName];
};

/** A brush keeps more than the picture gets: from this many ml a head it is worth a word. */
const WASTES_ML = 2;
const DAMP_POINTS = 10;

/** What is short, wasted, left to chance or not to be had, for this group and this studio. The costliest first. */
export function kitFindings(lesson: Lesson, paint: KitPaint, studio: Studio): KitFinding[] {
  return [
    ...whiteShort(paint, groupOf(lesson).heads),
    ...brushTooWide(lesson),
    ...speckAtPalettes(lesson, paint),
    ...mixedAgain(lesson, paint),
    ...childrensMetals(lesson),
    ...tooManyDryers(lesson, studio),
    ...dampRoom(lesson, studio),
    ...feeBelow(lesson, paint),
  ];
}

function whiteShort({ tubes }: KitPaint, heads: number): KitFinding[] {
  const white = tubes.find(({ tube }) => isWhite(tube));
  if (!white || white.stockMl === 0 || white.stockMl >= white.sureMl) return [];
  const out = runsOutOfTen(white.stockMl, white.groupMl, heads / white.places);
  const odds =
    out >= 10 ? say('it will not be enough') : say`${counted(Math.max(1, out), 'class', 'classes')} in ten would run out`;
  return [
    {
      key: 'white-short',
      words: say`White for this class comes to ${mlInWords(white.groupMl)}, to be sure ${mlInWords(white.sureMl)}; you have ${mlInWords(white.stockMl)}: ${odds}.`,
    },
  ];
}

/** The brush that costs most paint for what it lays, and the next narrower one of its kind. */
function brushTooWide(lesson: Lesson): KitFinding[] {
  const found = lesson.steps.flatMap((step) => {
    const brush = brushOf(step.brushId);
    // All of a canvas is toned with a wide brush, whatever stays in it.
    if (!brush || step.mixIds.length === 0 || step.wholeCanvas) return [];
    const laidMl = layingsOf(lesson).reduce((sum, one) => (one.step === step ? sum + one.ml : sum), 0);
    const keeps = (widthMm: number) =>
      losses.brushfuls[lesson.level] * step.mixIds.length * brushfulOf(step) * brushKeepsMl(widthMm);
    const narrower = brushes
      .filter((one) => one.type === brush.type && one.widthMm < brush.widthMm)
      .sort((a, b) => b.widthMm - a.widthMm)[0];
    const saves = narrower ? keeps(brush.widthMm) - keeps(narrower.widthMm) : 0;
    return narrower && laidMl > 0 && keeps(brush.widthMm) > laidMl && saves >= WASTES_ML
      ? [{ step, brush, narrower, saves }]
      : [];
  });
  const [worst] = found.sort((one, other) => other.saves - one.saves);
  if (!worst) return [];
  const { step, brush, narrower, saves } = worst;
  return [
    {
      key: `brush-wide ${step.id}`,
      words: say`In “${step.title}” the ${brushInWords(brush)} takes up more paint than the picture gets. The ${brushInWords(narrower)} saves ${mlInWords(saves)} a head.`,
      fix: {
        words: say`Use the ${brushInWords(narrower)}`,
        command: 'editStep',
        args: { id: step.id, step: { brushId: narrower.id } },
      },
    },
  ];
}

function speckAtPalettes(lesson: Lesson, { mixes }: KitPaint): KitFinding[] {
  const said = new Set((lesson.kit?.premix ?? []).map(({ mixId }) => mixId));
  return mixes.flatMap(({ premix: { mix, advised, isBatch, reasons } }): KitFinding[] =>
    advised === 'must' && !isBatch && said.has(mix.id)
      ? [
          {
            key: `speck ${mix.id}`,
            words:
              say`“${mix.name}” is mixed at the palettes, though it ${reasons.find(({ weight }) => weight === 'must')?.words ?? ''}.`.replace(
                'it its',
                'its',
              ),
            fix: { words: say`Mix ${mix.name} ahead`, command: 'setPremix', args: { mixId: mix.id, how: 'batch' } },
          },
        ]
      : [],
  );
}

/** Of a mix that comes back and is not made ahead, so much is to be kept from the first time. */
function mixedAgain(lesson: Lesson, { mixes }: KitPaint): KitFinding[] {
  const again = mixes.filter(({ premix, volume }) => !premix.isBatch && volume.steps.length > 1);
  if (again.length === 0) return [];
  const parts = again.slice(0, 3).map(({ premix, volume }) => {
    const later = new Set(volume.steps.slice(1));
    const ml = layingsOf(lesson).reduce(
      (sum, one) => (one.mixId === premix.mix.id && one.step && later.has(one.step) ? sum + one.ml : sum),
      0,
    );
    return say`${mlInWords(Math.max(0.5, ml * 1.5))} of ${premix.mix.name}`;
  });
  return [
    { key: 'remix', words: say`What is mixed anew will not match. Have each painter keep ${listInWords(parts)} under film.` },
  ];
}

function childrensMetals({ kit, tubes }: Lesson): KitFinding[] {
  if (!kit?.children) return [];
  const metal = tubes.filter((tube) => !tube.own && pigmentOf(tube.pigment).metals.length > 0).map(shortTubeName);
  return metal.length > 0
    ? [
        {
          key: 'children-metal',
          words: say`Children paint without ${listInWords(metal)}: replace ${metal.length === 1 ? 'it' : say('them')}. The labels decide.`,
        },
      ]
    : [];
}

function tooManyDryers(lesson: Lesson, studio: Studio): KitFinding[] {
  const { dryers } = kitRoom(lesson, studio);
  const planned = lesson.room.dryers?.count ?? 0;
  if (!dryers || planned <= dryers.inAll) return [];
  return [
    {
      key: 'circuit',
      words: say`${counted(planned, 'dryer')} of ${dryers.watts} W, but the circuits carry ${dryers.inAll} at a time beside the rest. Local code and a licensed electrician decide.`,
    },
  ];
}

function dampRoom(lesson: Lesson, studio: Studio): KitFinding[] {
  const { damperBy, full, paintOverMin } = kitRoom(lesson, studio);
  if (100 * damperBy < DAMP_POINTS) return [];
  return [
    {
      key: 'damp-room',
      words: say`The full room is about ${Math.round(100 * damperBy)} points damper: ${
        Number.isFinite(paintOverMin.full)
          ? say`a block-in may be painted over after ${minutesInWords(paintOverMin.full)} instead of ${minutesInWords(paintOverMin.as)}`
          : say('a block-in does not dry then')
      }.`,
      fix: {
        words: say('Plan with that air'),
        command: 'setRoom',
        args: { room: { humidity: Math.round(full.humidity * 100) / 100 } },
      },
    },
  ];
}

function feeBelow(lesson: Lesson, { usedMinor }: KitPaint): KitFinding[] {
  const { feeMinor, fixedMinor } = lesson.kit ?? {};
  if (feeMinor === undefined) return [];
  const { heads } = groupOf(lesson);
  const from = paysFrom(feeMinor, 0, usedMinor === null ? 0 : Math.round(usedMinor / heads), fixedMinor ?? 0);
  if (from !== null && from <= heads) return [];
  return [
    {
      key: 'fee-below',
      words:
        from === null
          ? say('At this fee the class never pays.')
          : say`At this fee the class pays from ${counted(from, 'student')} on; ${heads} are planned.`,
    },
  ];
}
