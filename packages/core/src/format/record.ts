import { say } from '@viaticum/contract';
import Papa from 'papaparse';

/** What is told of a class, as far as a table has it; minutes of the class. */
export type ToldClass = {
  code: string;
  beganAt: number | null;
  items: {
    kind: string;
    title: string;
    planned: number | null;
    actual: number | null;
    present: number;
    done: number;
    assumed: number;
  }[];
  hands: { firstName: string; reason: string; minute: number; tookMin: number | null }[];
  messages: { minute: number; text: string }[];
  airs: { minute: number; airC: number; humidity: number }[];
  holds: { minute: number; minutes: number }[];
};

const minutes = (value: number | null): number | '' => (value === null ? '' : Math.round(value * 10) / 10);

/**
 * What happened in a class as a table (CSV): a line for each step, pause and break, then what was said, noted and asked, by the minute.
 * Nobody is named: hands are of "Student 1", in the order in which they first asked. Notes about students are no part of it.
 */
export function recordCsv(told: ToldClass): string {
  const date = told.beganAt === null ? '' : new Date(told.beganAt).toISOString().slice(0, 10);
  const people = [...new Set(told.hands.map((hand) => hand.firstName))];
  const head = [
    'date',
    'class',
    'what',
    'title',
    'minute',
    say('planned min'),
    say('took min'),
    'present',
    say('said done'),
    say('assumed done'),
  ];
  const line = (what: string, title: string, rest: (string | number)[]) => [date, told.code, what, title, ...rest];
  return Papa.unparse(
    [
      head,
      ...told.items.map((item) =>
        line(item.kind, item.title, [
          '',
          minutes(item.planned),
          minutes(item.actual),
          ...(item.kind === 'step' && item.actual !== null ? [item.present, item.done, item.assumed] : ['', '', '']),
        ]),
      ),
      ...told.airs.map(({ minute, airC, humidity }) =>
        line('air', `${airC} °C, ${Math.round(humidity * 100)} %`, [minutes(minute), '', '', '', '', '']),
      ),
      ...told.holds.map(({ minute, minutes: held }) => line('held', '', [minutes(minute), '', minutes(held), '', '', ''])),
      ...told.messages.map(({ minute, text }) => line(say('told all'), text, [minutes(minute), '', '', '', '', ''])),
      ...told.hands.map(({ firstName, reason, minute, tookMin }) =>
        line('hand', say`Student ${people.indexOf(firstName) + 1}: ${reason}`, [
          minutes(minute),
          '',
          minutes(tookMin),
          '',
          '',
          '',
        ]),
      ),
    ],
    { escapeFormulae: true },
  );
}
