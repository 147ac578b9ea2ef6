import { say, worded } from '@viaticum/contract';
import { counted } from '@viaticum/core/units';

/** The words of what is stored about students, and of taking it away. */
export const privacyWords = worded({
  title: 'What is stored about students',
  lead: 'Students give a first name and nothing else. This is all that Viaticum keeps of them, and for how long.',
  parts: [
    {
      head: 'In a class',
      lines: [
        'The first name that was typed in, apart from everything else, so that it can be taken away by itself.',
        'When somebody joined, said Done, raised a hand and why, what they ticked, where they sit, and which paints and helpers they have.',
        'No address, no age, no picture, no place, no account. The camera’s picture of the palette is held in memory only, until the next one comes.',
      ],
    },
    {
      head: 'With the instructor',
      lines: [
        'A note, if the instructor writes one; which students came before, by their first names, and how fast their classes went; invitations that were written to them.',
        'The log of each class: how long its steps took, for what was asked, when coats were dry; students stand in it by a number only.',
        'How finished canvases differ from the picture, in numbers. Their photographs stay in the instructor’s browser; one is stored only with a note of who agreed, and goes when it is shared no more.',
        'How long somebody took who painted alone, if they pressed “Tell my times”: no name goes with it.',
        'None of it is ever sent to a phone or shown on the wall.',
      ],
    },
    {
      head: 'On the student’s phone',
      lines: [
        'The class and the steps, so that they stay when the network goes. The phone forgets them after thirty days.',
        'After the end of a class its code opens nothing any more.',
      ],
    },
    {
      head: 'For how long',
      lines: [
        'Until the instructor erases it, or by itself after the time that the instructor has set. How a class went stays, without names.',
        'Backups made before still hold what has been erased since: those of the last seven nights, and whatever was taken elsewhere.',
      ],
    },
    {
      head: 'Your right to it',
      lines: [
        'Ask your instructor: they can give you all that is stored of you as a file, and erase it, in the records of past classes as well.',
      ],
    },
  ],
  back: 'Back',
  link: 'What is stored about students?',
  phoneLink: 'What is stored of me?',
  students: 'Students',
  studentsAbout: 'Names of students may be erased by themselves after a time. How their classes went stays.',
  retention: 'Keep names',
  keeps: (days: number | null) =>
    days === null
      ? say('until I erase them')
      : days === 365
        ? say('for a year after a class')
        : say`for ${days} days after a class`,
  kept: 'From now on names are kept as you said.',
  cameBefore: 'Who came before',
  classes: (count: number) => counted(count, 'class', 'classes'),
  give: 'Save what is stored',
  giveOf: (name: string) => say`Save what is stored of ${name}`,
  erase: 'Erase',
  eraseOf: (name: string) => say`Erase ${name}`,
  eraseAsk: (name: string) =>
    say`Erase ${name}? The name, notes, invitations and tubes go, in every class. This cannot be taken back.`,
  erased: (name: string) => say`${name} is erased.`,
  names: 'Names in this class',
  namesAbout: 'What was learnt from this class stays when its names are erased.',
  eraseAll: 'Erase all names',
  eraseAllAsk: 'Erase all names of this class, your notes of them and the invitations? This cannot be taken back.',
  eraseHereAsk: (name: string) => say`Erase ${name} in this class? This cannot be taken back.`,
  allErased: 'The names of this class are erased.',
  file: (name: string) => say`What is stored of ${name}.json`,
});
