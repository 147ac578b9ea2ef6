import { type Lesson, languageNow, type Room, SCHEMA_VERSION, type School, say, schoolChoices } from '@viaticum/contract';

/** The first option of every choice; drawn on the ground, which would bury the lines. */
export const defaultSchool: School = {
  ...(Object.fromEntries(Object.entries(schoolChoices).map(([choice, options]) => [choice, options[0]])) as School),
  drawWhen: 'after-ground',
};

/** A quiet heated room. */
export const defaultRoom: Room = { name: 'studio', airC: 21, humidity: 0.45, airSpeed: 0.1 };

/** Canvas and paper sizes as they are sold, in mm, portrait. */
export const commonSizes: readonly { name: string; unit: 'in' | 'cm'; widthMm: number; heightMm: number }[] = [
  ...(
    [
      [8, 10],
      [11, 14],
      [12, 16],
      [14, 18],
      [16, 20],
      [18, 24],
      [24, 24],
    ] as const
  ).map(([w, h]) => ({
    name: say`${w} × ${h} in`,
    unit: 'in' as const,
    widthMm: w * 25.4,
    heightMm: h * 25.4,
  })),
  { name: 'A4', unit: 'cm', widthMm: 210, heightMm: 297 }, // ISO 216
  { name: 'A3', unit: 'cm', widthMm: 297, heightMm: 420 }, // ISO 216
];

/** Nothing decided about the drawing: as much of it as the middle amount shows. */
export const emptyDrawing: Lesson['drawing'] = {
  amount: 0.65,
  own: [],
  edits: [],
  constructions: [],
  landmarks: [],
  toleranceMm: 4,
};

/** A lesson with nothing decided but its title and canvas. */
export function emptyLesson(
  title: string,
  size: { widthMm: number; heightMm: number; unit: 'in' | 'cm' },
  ids: () => string,
): Lesson {
  return {
    schemaVersion: SCHEMA_VERSION,
    title,
    language: languageNow(),
    units: size.unit,
    level: 'beginner',
    school: defaultSchool,
    room: { ...defaultRoom, name: say('studio') },
    support: { kind: 'canvas', widthMm: size.widthMm, heightMm: size.heightMm, absorbency: 'gesso', groundCoats: [] },
    references: [],
    things: [],
    areas: [],
    overlapMm: 6,
    marks: [],
    drawing: emptyDrawing,
    finish: 'satin',
    tubes: [],
    mixes: [],
    stages: [{ id: ids(), name: say('First things') }],
    steps: [],
    passages: [],
    leftOut: [],
    planning: { pins: [] },
    samples: [],
    variants: [],
    setAside: [],
  };
}
