export { palettePicture } from './camera.js';
export { airAt, sensor } from './sensor.js';
export { type ClassSocket, classSocket, type Place } from './socket.js';
export { nameOf, student } from './student.js';
