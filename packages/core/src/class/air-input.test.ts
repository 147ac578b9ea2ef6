import { describe, expect, it } from '@jest/globals';
import { readAir } from './index.js';

describe('air that is typed', () => {
  it.each([
    ['20', '50', 20, 0.5],
    ['20,5', '47.5', 20.5, 0.475],
    [' 17 °C ', '75 %', 17, 0.75],
    ['−4', '0', -4, 0],
    ['50', '100', 50, 1],
  ])('%s and %s are read', (airC, humidity, celsius, share) => {
    expect(readAir(airC, humidity).air).toEqual({ airC: celsius, humidity: share });
  });
  it.each([
    ['95', '50', 'airC', 'Between −10 and 50 °C. What does the thermometer show?'],
    ['-11', '50', 'airC', 'Between −10 and 50 °C. What does the thermometer show?'],
    ['warm', '50', 'airC', 'Between −10 and 50 °C. What does the thermometer show?'],
    ['20', '0.5', 'humidity', '50 %? Type it in per cent.'],
    ['20', '0,62', 'humidity', '62 %? Type it in per cent.'],
    ['20', '120', 'humidity', 'Between 0 and 100 %. What does the hygrometer show?'],
    ['20', '', 'humidity', 'Between 0 and 100 %. What does the hygrometer show?'],
  ])('%s and %s are met with a sentence', (airC, humidity, field, fault) => {
    expect(readAir(airC, humidity)).toEqual({ air: null, field, fault });
  });
});
