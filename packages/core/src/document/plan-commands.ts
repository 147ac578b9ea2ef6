import { type Lesson, letters, type Planning, type Room, type Step } from '@viaticum/contract';
import { between, CommandError, type D, find, named, setOrClear } from './command-tools.js';

function soundRoom(room: Room): void {
  between(room.airC, -20, 60, 'The air must be between −20 and 60 °C. Enter the temperature of the room.');
  between(room.humidity, 0, 1, 'Humidity must lie between 0 and 100 %. Enter what the room’s hygrometer shows.');
  between(room.airSpeed, 0, 20, 'The draught must lie between 0 and 20 m/s. A quiet room has 0.1.');
  if (room.sunWPerM2 !== undefined)
    between(room.sunWPerM2, 0, 1200, 'Sunlight lies between 0 and 1 200 W/m². Full sun has about 600 here.');
  if (room.seats !== undefined) between(room.seats, 1, 300, 'A room has between 1 and 300 seats.');
  if (room.dryers) {
    between(room.dryers.count, 0, 100, 'Enter between 0 and 100 hair dryers.');
    between(room.dryers.watts, 100, 5000, 'A hair dryer takes between 100 and 5 000 W. Its label says how much.');
  }
  if (room.circuits) {
    between(room.circuits.count, 1, 50, 'Enter between 1 and 50 circuits.');
    between(room.circuits.amps, 1, 100, 'A circuit carries between 1 and 100 A. The breaker says how much.');
    between(room.circuits.volts, 50, 500, 'The mains have between 50 and 500 V.');
  }
}

type OptionalRoom = 'sunWPerM2' | 'outdoors' | 'seats' | 'dryers' | 'circuits' | 'hours' | 'startAtMin' | 'lightUntilMin';

/** What the instructor holds to in the plan, and the room it is made for. */
export const planCommands = {
  setRoom: (lesson: D, { room, clear }: { room: Partial<Room>; clear?: OptionalRoom[] }) => {
    const next = { ...lesson.room, ...room };
    soundRoom(next);
    lesson.room = { ...next, name: named(next.name, 'room') };
    for (const field of clear ?? []) delete lesson.room[field];
  },
  /** Another room as a whole: a saved one. */
  takeRoom: (lesson: D, { room }: { room: Room }) => {
    soundRoom(room);
    lesson.room = { ...room, name: named(room.name, 'room') };
  },
  pinStep: (lesson: D, { id, startMin }: { id: string; startMin: number }) => {
    find(lesson.steps, id, 'step');
    between(startMin, 0, 20_000, 'A step can be pinned to a time between 0:00 and two weeks.');
    const at = Math.round(startMin * 4) / 4;
    lesson.planning.pins = lesson.planning.pins.filter((pin) => !('stepId' in pin && pin.stepId === id));
    lesson.planning.pins.push({ stepId: id, startMin: at });
  },
  /** Pins a step to a time and puts it where it then belongs in the order. */
  pinAt: (lesson: D, { id, startMin, to }: { id: string; startMin: number; to: number }) => {
    const step = find(lesson.steps, id, 'step');
    const rest = lesson.steps.filter((one) => one.id !== id);
    const place = Math.max(0, Math.min(rest.length, to));
    // It joins the stage it comes to stand in; between two stages it keeps its own where it can.
    const around = [rest[place - 1]?.stageId, rest[place]?.stageId];
    if (!around.includes(step.stageId)) step.stageId = around[0] ?? around[1] ?? step.stageId;
    lesson.steps = [...rest.slice(0, place), step, ...rest.slice(place)];
    planCommands.pinStep(lesson, { id, startMin });
  },
  unpin: (lesson: D, { id }: { id: string }) => {
    lesson.planning.pins = lesson.planning.pins.filter((pin) => !('stepId' in pin && pin.stepId === id));
  },
  pinOrder: (lesson: D, { firstId, thenId }: { firstId: string; thenId: string }) => {
    find(lesson.steps, firstId, 'step');
    find(lesson.steps, thenId, 'step');
    if (firstId === thenId) throw new CommandError('A step cannot come before itself. Choose another.');
    planCommands.unpinOrder(lesson, { firstId, thenId });
    lesson.planning.pins.push({ firstId, thenId });
  },
  unpinOrder: (lesson: D, { firstId, thenId }: { firstId: string; thenId: string }) => {
    lesson.planning.pins = lesson.planning.pins.filter(
      (pin) => !('firstId' in pin && pin.firstId === firstId && pin.thenId === thenId),
    );
  },
  setPlanning: (
    lesson: D,
    {
      breaks,
      sessions,
      cutsBefore,
      cautious,
      slackShare,
    }: {
      breaks?: Planning['breaks'] | null;
      sessions?: Planning['sessions'] | null;
      cutsBefore?: string[];
      cautious?: boolean;
      slackShare?: number;
    },
  ) => {
    if (breaks) {
      between(breaks.lengthMin, 1, 120, 'A break lasts between 1 and 120 minutes.');
      between(breaks.everyMin, 10, 600, 'Breaks come after between 10 minutes and 10 hours.');
    }
    if (sessions) {
      between(sessions.most, 2, 12, 'A lesson is spread over between 2 and 12 sessions.');
      between(sessions.limitMin, 20, 1000, 'A session lasts between 20 and 1 000 minutes.');
    }
    if (slackShare !== undefined) between(slackShare, 0, 1, 'Slack lies between 0 and 100 % of the time.');
    if (breaks !== undefined) setOrClear(lesson.planning, 'breaks', breaks);
    if (sessions !== undefined) setOrClear(lesson.planning, 'sessions', sessions);
    if (sessions === null) delete lesson.planning.cutsBefore;
    if (cutsBefore !== undefined) {
      for (const id of cutsBefore) find(lesson.steps, id, 'step');
      setOrClear(lesson.planning, 'cutsBefore', cutsBefore.length > 0 ? cutsBefore : null);
    }
    if (cautious !== undefined) setOrClear(lesson.planning, 'cautious', cautious || null);
    if (slackShare !== undefined) setOrClear(lesson.planning, 'slackShare', slackShare || null);
  },
  /** Parts a step into several of equal length; `places` say where the seams are. `ids` name the parts after the first. */
  divideStep: (
    lesson: D,
    { id, parts, places, doMin, ids }: { id: string; parts: number; places: string[]; doMin: number; ids: string[] },
  ) => {
    const step = find(lesson.steps, id, 'step');
    if (!(Number.isInteger(parts) && parts >= 2 && parts <= 12) || ids.length !== parts - 1)
      throw new CommandError('A step is parted into between 2 and 12 parts.');
    between(doMin, 0, 600, 'Minutes cannot be negative or above 600. Enter how long this takes.');
    if (ids.some((one) => lesson.steps.some((other) => other.id === one)))
      throw new CommandError('This step is in the lesson already.');
    const at = lesson.steps.findIndex((one) => one.id === id);
    const title = step.title;
    const cover = (step.coverShare ?? 1) / parts;
    const partOf = (k: number): Partial<Step> => ({
      title: named(`${title.slice(0, 90)}, part ${k + 1} of ${parts}`, 'step'),
      doMin: Math.round((doMin / parts) * 4) / 4,
      coverShare: cover,
      say: k < places.length ? `${step.say}${step.say ? ' ' : ''}Stop ${places[k]}.`.slice(0, letters.words) : step.say,
    });
    // What is counted is counted once, with the first part; a photograph shows the end, which is the last one's.
    const { photoSha256, ...whole } = step;
    const rest = ids.map((own, k) => ({
      ...whole,
      ...partOf(k + 1),
      id: own,
      needs: 'any' as const,
      showMin: 0,
      markIds: [],
      ...(photoSha256 && k === ids.length - 1 && { photoSha256 }),
    }));
    delete step.photoSha256;
    Object.assign(step, partOf(0));
    lesson.steps.splice(at + 1, 0, ...(rest as Lesson['steps']));
  },
};
