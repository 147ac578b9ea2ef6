/** How many easels stand in a row of the room, by how many there are: the same on the desk and on the wall. */
export const easelsInRow = (count: number): number => Math.min(6, Math.max(3, Math.ceil(Math.sqrt(count * 1.6))));
