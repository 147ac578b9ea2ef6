import type { ClassLog, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { minutesOf } from '../plan/index.js';
import { stopTestOf } from '../text/index.js';
import { the } from '../units/index.js';

/** What is asked when a picture nears its end: whether to stop, what the plan still has, and the last look before tape and signature. */
export type Finish = {
  stop: string[];
  /** Steps that the last class did not come to, with their minutes. */
  open: { stepId: string; title: string; minutes: number }[];
  /** What could still be painted, and need not be. */
  optional: { title: string; minutes: number }[];
  last: string[];
  varnish: string[];
};

/** `last`: the newest class of this lesson, where there was one. */
export function finishOf(lesson: Lesson, last: Pick<ClassLog, 'items'> | null): Finish {
  const minutes = minutesOf(lesson);
  const lasting = (id: string) => {
    const own = minutes.get(id);
    return own ? own.showMin + own.doMin : 0;
  };
  const missed = new Set(
    (last?.items ?? []).filter(({ actual, stepId }) => actual === null && stepId).map(({ stepId }) => stepId),
  );
  const open = lesson.steps.filter((step) => missed.has(step.id) && !step.mayBeLeftOut);
  const optional = [
    ...lesson.steps.filter((step) => step.mayBeLeftOut).map((step) => ({ title: step.title, minutes: lasting(step.id) })),
    ...lesson.leftOut.map(({ step }) => ({ title: step.title, minutes: step.doMin ?? 0 })),
  ];
  return {
    stop: stopTestOf(lesson),
    open: open.map((step) => ({ stepId: step.id, title: step.title, minutes: lasting(step.id) })),
    optional,
    last: lastLook(lesson),
    varnish: varnishWords(lesson),
  };
}

/** The last look, in the order in which it is done (common practice, no published source). */
function lastLook({ support, areas, subjectAreaId, school }: Lesson): string[] {
  const subject = areas.find(({ id }) => id === subjectAreaId)?.name;
  return [
    say('From two metres and in a mirror: does anything jump out that should not?'),
    ...(subject ? [say`The edges of ${the(subject)}: sharp where the eye should rest, soft elsewhere?`] : []),
    say('Bare spots and pencil lines: touch them in with the mix that lies beside them.'),
    ...(support.wrapMm ? [say('The sides of the canvas: is the paint carried round?')] : []),
    ...(support.marginMm
      ? [say('Tape off while the last paint at it is touch-dry, slowly, away from the picture; a torn edge is mended at once.')]
      : []),
    school.order === 'whole-together'
      ? say('Sign small, in a colour that is in the picture, where no line leads to it.')
      : say('Sign small, thin paint with a fine brush, when the paint beneath is touch-dry.'),
  ];
}

/** Which varnish goes on, by what the picture is painted with; the label decides. */
function varnishWords({ school, finish, steps, support }: Lesson): string[] {
  if (school.varnish === 'none') return [say('This way of working leaves the picture unvarnished.')];
  const sheen = { matt: say('matt'), satin: say('satin'), gloss: say('gloss') }[finish];
  const wipes =
    steps.some(({ paint }) => paint === 're-wettable') ||
    school.transferMedium === 'charcoal' ||
    school.transferMedium === 'chalk';
  return [
    say`A varnish that can be taken off again, ${sheen}, as the paint is.`,
    school.varnish === 'sprayed'
      ? say('Sprayed, in two thin passes, outdoors or with an extractor, away from flames.')
      : say('Brushed thin with a wide soft brush, in one direction, without going back into it.'),
    ...(wipes && school.varnish === 'brushed'
      ? [say('Some of it can still be wiped: a sprayed first pass keeps it from smearing.')]
      : []),
    ...(support.kind === 'paper' ? [say('On paper: try it on a strip first, it may cockle.')] : []),
    say('Try it on a painted strip, and keep to its label.'),
  ];
}
