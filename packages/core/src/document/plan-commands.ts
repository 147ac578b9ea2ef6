import { commandErrors, type Lesson, letters, type Planning, type Room, type Step, say } from '@viaticum/contract';
import { between, CommandError, type D, find, named, setOrClear } from './command-tools.js';

function soundRoom(room: Room): void {
  between(room.airC, -20, 60, commandErrors.airOutOfRange);
  between(room.humidity, 0, 1, commandErrors.humidityOutOfRange);
  between(room.airSpeed, 0, 20, commandErrors.draughtOutOfRange);
  if (room.sunWPerM2 !== undefined) between(room.sunWPerM2, 0, 1200, commandErrors.sunOutOfRange);
  if (room.seats !== undefined) between(room.seats, 1, 300, commandErrors.seatsOutOfRange);
  if (room.dryers) {
    between(room.dryers.count, 0, 100, commandErrors.dryersOutOfRange);
    between(room.dryers.watts, 100, 5000, commandErrors.wattsOutOfRange);
  }
  if (room.circuits) {
    between(room.circuits.count, 1, 50, commandErrors.circuitsOutOfRange);
    between(room.circuits.amps, 1, 100, commandErrors.ampsOutOfRange);
    between(room.circuits.volts, 50, 500, commandErrors.voltsOutOfRange);
  }
}

/** A contact by the two steps of it, and the area whose paint is touched (all where none is named). */
type Waived = { fromStepId: string; toStepId: string; areaId?: string };

type OptionalRoom =
  | 'calibration'
  | 'learntSince'
  | 'sunWPerM2'
  | 'outdoors'
  | 'seats'
  | 'dryers'
  | 'circuits'
  | 'hours'
  | 'startAtMin'
  | 'lightUntilMin';

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
    between(startMin, 0, 20_000, commandErrors.pinOutOfRange);
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
    if (firstId === thenId) throw new CommandError(commandErrors.stepBeforeItself);
    planCommands.unpinOrder(lesson, { firstId, thenId });
    lesson.planning.pins.push({ firstId, thenId });
  },
  unpinOrder: (lesson: D, { firstId, thenId }: { firstId: string; thenId: string }) => {
    lesson.planning.pins = lesson.planning.pins.filter(
      (pin) => !('firstId' in pin && pin.firstId === firstId && pin.thenId === thenId),
    );
  },
  /** Goes on beside or over paint that is still wet, all the same. */
  waiveContact: (lesson: D, { contacts, why }: { contacts: readonly Waived[]; why?: string }) => {
    for (const { fromStepId, toStepId, areaId } of contacts) {
      find(lesson.steps, fromStepId, 'step');
      find(lesson.steps, toStepId, 'step');
      if (areaId !== undefined) find(lesson.areas, areaId, 'area');
    }
    planCommands.unwaiveContact(lesson, { contacts });
    const said = why?.trim() ? { why: why.trim() } : {};
    lesson.planning.waived = [...(lesson.planning.waived ?? []), ...contacts.map((one) => ({ ...one, ...said }))];
  },
  /** Takes {@link planCommands.waiveContact} back: of one area, or of all. */
  unwaiveContact: (lesson: D, { contacts }: { contacts: readonly Waived[] }) => {
    const kept = (lesson.planning.waived ?? []).filter(
      (one) =>
        !contacts.some(
          (gone) =>
            gone.fromStepId === one.fromStepId &&
            gone.toStepId === one.toStepId &&
            (gone.areaId === undefined || one.areaId === undefined || gone.areaId === one.areaId),
        ),
    );
    setOrClear(lesson.planning, 'waived', kept.length > 0 ? kept : null);
  },
  /** The waits of the former rules were seen; `keep` holds steps to the times that they had. */
  meetWaits: (lesson: D, { keep }: { keep: { stepId: string; startMin: number }[] }) => {
    delete lesson.formerWaits;
    for (const { stepId, startMin } of keep) planCommands.pinStep(lesson, { id: stepId, startMin });
  },
  setPlanning: (
    lesson: D,
    {
      breaks,
      sessions,
      cutsBefore,
      cautious,
      slackShare,
      toleranceMin,
      harmLimit,
    }: {
      breaks?: Planning['breaks'] | null;
      sessions?: Planning['sessions'] | null;
      cutsBefore?: string[];
      cautious?: boolean;
      slackShare?: number;
      /** Null: by the wait itself, and the usual limit. */
      toleranceMin?: number | null;
      harmLimit?: number | null;
    },
  ) => {
    if (breaks) {
      between(breaks.lengthMin, 1, 120, commandErrors.breakLengthOutOfRange);
      between(breaks.everyMin, 10, 600, commandErrors.breakEveryOutOfRange);
    }
    if (sessions) {
      between(sessions.most, 2, 12, commandErrors.sessionsOutOfRange);
      between(sessions.limitMin, 20, 1000, commandErrors.sessionLengthOutOfRange);
    }
    if (slackShare !== undefined) between(slackShare, 0, 1, commandErrors.slackOutOfRange);
    if (breaks !== undefined) setOrClear(lesson.planning, 'breaks', breaks);
    if (sessions !== undefined) setOrClear(lesson.planning, 'sessions', sessions);
    if (sessions === null) delete lesson.planning.cutsBefore;
    if (cutsBefore !== undefined) {
      for (const id of cutsBefore) find(lesson.steps, id, 'step');
      setOrClear(lesson.planning, 'cutsBefore', cutsBefore.length > 0 ? cutsBefore : null);
    }
    if (cautious !== undefined) setOrClear(lesson.planning, 'cautious', cautious || null);
    if (typeof toleranceMin === 'number') between(toleranceMin, 0, 30, commandErrors.nearlyDryOutOfRange);
    if (typeof harmLimit === 'number') between(harmLimit, 1, 40, commandErrors.harmLimitOutOfRange);
    if (toleranceMin !== undefined) setOrClear(lesson.planning, 'toleranceMin', toleranceMin);
    if (harmLimit !== undefined) setOrClear(lesson.planning, 'harmLimit', harmLimit);
    if (slackShare !== undefined) setOrClear(lesson.planning, 'slackShare', slackShare || null);
  },
  /** Parts a step into several of equal length; `places` say where the seams are. `ids` name the parts after the first. */
  divideStep: (
    lesson: D,
    { id, parts, places, doMin, ids }: { id: string; parts: number; places: string[]; doMin: number; ids: string[] },
  ) => {
    const step = find(lesson.steps, id, 'step');
    if (!(Number.isInteger(parts) && parts >= 2 && parts <= 12) || ids.length !== parts - 1)
      throw new CommandError(commandErrors.partsOutOfRange);
    between(doMin, 0, 600, commandErrors.minutesOutOfRange);
    if (ids.some((one) => lesson.steps.some((other) => other.id === one))) throw new CommandError(commandErrors.stepAlreadyThere);
    const at = lesson.steps.findIndex((one) => one.id === id);
    const title = step.title;
    const cover = (step.coverShare ?? 1) / parts;
    const partOf = (k: number): Partial<Step> => ({
      title: named(say`${title.slice(0, 90)}, part ${k + 1} of ${parts}`, 'step'),
      doMin: Math.round((doMin / parts) * 4) / 4,
      coverShare: cover,
      say: k < places.length ? say`${step.say}${step.say ? ' ' : ''}Stop ${places[k]}.`.slice(0, letters.words) : step.say,
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
