export {
  band,
  card,
  greyPlaces,
  greyStrip,
  type Patch,
  type PlaceName,
  paperPlaces,
  places,
  stripes,
  usualGreys,
} from './card.js';
export { type CardReading, readCard } from './read.js';
