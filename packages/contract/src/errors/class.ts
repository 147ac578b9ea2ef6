import { say } from '../language.js';
import { coded } from './coded.js';

/** What a running class refuses, and why. */
export const classErrors = {
  ended: coded(409, 'ended', 'This class has ended. Nothing more can be changed.'),
  notOpen: coded(409, 'not-now', 'The class is not open yet. Wait until your instructor opens it.'),
  notStarted: coded(409, 'not-now', 'The class has not started yet. Go on to the first step first.'),
  notNow: coded(409, 'not-now', 'This cannot be done at this point of the class.'),
  joinedAlready: coded(409, 'joined', 'This phone has joined already.'),
  instructorOnly: coded(409, 'forbidden', 'Only the instructor can do this.'),
  joinFirst: coded(409, 'join-first', 'Join the class with your first name first.'),
  removed: coded(409, 'removed', 'You are no longer in this class. Join again with your first name.'),
  nameTaken: (name: string) =>
    coded(409, 'name-taken', say`There is a ${name} already. Add the first letter of your second name.`),
  selfOnly: coded(409, 'forbidden', 'You can only do this for yourself.'),
  full: coded(409, 'full', 'This class is full. Speak to the instructor.'),
  movedOn: coded(409, 'moved', 'The class has moved on meanwhile. Look again before you go on.'),
  notWaiting: coded(409, 'not-waiting', 'The class is not waiting for anything now. Go on as usual.'),
  lastStep: coded(409, 'last', 'This is the last step. End the class when everyone is done.'),
  unknownStep: coded(409, 'unknown-step', 'This step is not in the lesson.'),
  movedOnBeforeReplan: coded(409, 'moved', 'The class has moved on meanwhile. Look again before you plan the rest.'),
  noReplan: coded(409, 'no-plan', 'The rest could not be planned again. The plan stays as it is.'),
  rehearsalOnly: coded(409, 'no-rehearsal', 'Time can be made faster in a rehearsal only. Begin one on the Class page.'),
  nothingToTakeBack: coded(409, 'nothing', 'There is nothing to take back.'),
  goingOnTooLate: coded(409, 'too-late', 'Going on can be taken back for five seconds only.'),
  replannedMeanwhile: coded(409, 'too-late', 'The rest was planned again meanwhile. Go back by the list of steps.'),
  doneTooLate: coded(409, 'too-late', 'Done can be taken back for five seconds only. Tell your instructor.'),
  noCoatToTouch: coded(409, 'no-coat', 'Nothing that dries lies there yet. Touch an area that was painted.'),
  unknownGroup: coded(409, 'unknown-group', 'This group is not in the class. Say which of its groups is meant.'),
  unknownStudent: coded(409, 'unknown-student', 'This student is not in the class.'),
  stepNotReached: coded(409, 'not-yet', 'The class has not come to this step yet.'),
  failed: coded(
    409,
    'failed',
    'This could not be done: something went wrong here. Everything else goes on; say it in another way.',
  ),
  tooMuchWaits: coded(409, 'busy', 'Too much waits to be written. Try again in a moment.'),
  notAdmitted: coded(409, 'not-admitted', 'You were not let in this time. Speak to your instructor.'),
  invalid: (sentence: string) => coded(409, 'invalid', sentence),
  notWorkedOut: (sentence: string) => coded(409, 'no-plan', sentence),
};
