import { byId, type Command } from '@viaticum/contract';
import type { ClassState, Group, Student } from './shape.js';

/** What each group has of its own: where it is in which plan. All else is the class's. */
const ownKeys = ['phase', 'plan', 'current', 'before', 'visits', 'paintedOn'] as const satisfies readonly (keyof ClassState)[];
type OwnKey = (typeof ownKeys)[number];
const isOwn = (key: string): key is OwnKey => (ownKeys as readonly string[]).includes(key);
/** Fields that a state may lack. */
const mayLack = ['freed', 'paintedOn', 'groups'] as const satisfies readonly (keyof ClassState)[];

/** What a group begins with: a copy of where another one is. */
export const progressOf = (state: ClassState): Omit<Group, 'id' | 'name'> =>
  structuredClone({
    phase: state.phase,
    plan: state.plan,
    current: state.current,
    before: state.before,
    visits: state.visits,
    ...(state.paintedOn && { paintedOn: state.paintedOn }),
  });

/** Commands that are about one group, and have to say which; and those that may. */
export const mustNameGroup: ReadonlySet<Command['type']> = new Set(['goOn', 'goTo', 'paintOn', 'takeBack', 'extend', 'replan']);
const mayNameGroup: ReadonlySet<Command['type']> = new Set(['hold', 'resume', 'touchTest']);
/** A command as it is given to one group; what is of the whole class or of one student stays as it is. */
export const toGroup = (command: Command, group: string): Command =>
  mustNameGroup.has(command.type) || mayNameGroup.has(command.type) ? ({ ...command, group } as Command) : command;

const views = new WeakMap<ClassState, Map<string, ClassState>>();

/**
 * A class as one of its groups has it: its own place in its own plan, its own students, and what belongs to all (the air, touch tests, the
 * log). It reads and writes the state that it is a view of, and stays the same object, so that what is remembered by state is remembered
 * by group. A class without groups, or a group that is none, is the class itself.
 */
export function viewOf(state: ClassState, groupId: string | undefined): ClassState {
  if (!state.groups || groupId === undefined || !state.groups[groupId]) return state;
  const known = views.get(state) ?? new Map<string, ClassState>();
  views.set(state, known);
  const before = known.get(groupId);
  if (before) return before;
  const view = {} as ClassState;
  let students: { seq: number; own: Record<string, Student> } | null = null;
  const ownStudents = (): Record<string, Student> => {
    if (students?.seq !== state.seq)
      students = {
        seq: state.seq,
        own: byId(Object.entries(state.students).filter(([, student]) => student.group === groupId)),
      };
    return students.own;
  };
  const target = (key: string): Record<string, unknown> =>
    (isOwn(key) ? (state.groups?.[groupId] ?? state) : state) as unknown as Record<string, unknown>;
  for (const key of new Set([...Object.keys(state), ...mayLack]))
    Object.defineProperty(view, key, {
      enumerable: true,
      get: () => (key === 'students' ? ownStudents() : target(key)[key]),
      set: (value: unknown) => {
        target(key)[key] = value;
      },
    });
  known.set(groupId, view);
  return view;
}

/** The class as the group of a student has it. */
export const viewFor = (state: ClassState, studentId: string | undefined): ClassState =>
  viewOf(state, studentId === undefined ? undefined : state.students[studentId]?.group);

/** All parts of a class by themselves: its groups, or the class as one. */
export const partsOf = (state: ClassState): { id: string | null; name: string; view: ClassState }[] =>
  state.groups
    ? Object.values(state.groups).map(({ id, name }) => ({ id, name, view: viewOf(state, id) }))
    : [{ id: null, name: '', view: state }];

/** The phase of a class in groups: running where any of them is. */
export function phaseOf(groups: readonly Group[]): ClassState['phase'] {
  for (const phase of ['running', 'held', 'open'] as const) if (groups.some((group) => group.phase === phase)) return phase;
  return groups[0]?.phase ?? 'open';
}

/** Who comes to a class in groups goes where the fewest are. */
export function smallestGroup({ groups, students }: ClassState): string | undefined {
  const all = Object.values(students);
  const count = (id: string) => all.filter((student) => student.group === id).length;
  return Object.keys(groups ?? {}).sort((a, b) => count(a) - count(b))[0];
}
