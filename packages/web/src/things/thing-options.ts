import { areaRoles, surfaceKinds } from '@viaticum/contract';
import { thingWords as w } from '../words/things.js';

/** What stands where a surface asks for no strokes of its own. */
export const PLAIN = 'plain';
export const roleOptions = areaRoles.map((role) => ({ value: role, label: w.roles[role] }));
export const surfaceOptions = [
  { value: PLAIN, label: w.plain },
  ...surfaceKinds.map((surface) => ({ value: surface as string, label: w.surfaces[surface] })),
];
