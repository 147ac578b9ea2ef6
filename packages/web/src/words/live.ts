/** Words of every screen that follows a class. */
export const liveWords = {
  sayAgain: 'No network: say it again when you are back.',
};
