const SWITCH = 'viaticum-single-keys';
/** Whether single letters act, on every page of this browser (WCAG 2.1.4 asks for a switch). */
export const singleKeysOn = (): boolean => globalThis.localStorage?.getItem(SWITCH) !== 'off';
export const setSingleKeys = (on: boolean): void => localStorage.setItem(SWITCH, on ? 'on' : 'off');

/** The key that was pressed; Caps Lock and Shift make no other letter of it. */
export const letterOf = ({ key }: { key: string }): string => (key.length === 1 ? key.toLowerCase() : key);
