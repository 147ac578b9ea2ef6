import { say } from '@viaticum/contract';
import { degreesInWords, measuresNow } from '../units/index.js';

/** The air that somebody typed, or the sentence for the field in which it cannot be. */
export type TypedAir =
  | { air: { airC: number; humidity: number }; fault: null; field: null }
  | { air: null; fault: string; field: 'airC' | 'humidity' };

const numberOf = (text: string): number => {
  const plain = text
    .trim()
    .replace(/\s*(°\s*[CF]|%)$/i, '')
    .replace(',', '.')
    .replace('−', '-');
  return plain === '' ? Number.NaN : Number(plain);
};
const wrong = (field: 'airC' | 'humidity', fault: string): TypedAir => ({ air: null, fault, field });

/**
 * The air as typed: degrees (Celsius, or as its reader measures, where no letter is typed) and per cent of relative humidity, with a comma or a point. What a thermometer cannot show is answered
 * with a sentence; so is a humidity below 1 %, which is a share that was meant as per cent.
 */
export function readAir(airC: string, humidity: string): TypedAir {
  const isFahrenheit = /°\s*F\s*$/i.test(airC) || (measuresNow().temperature === 'F' && !/°\s*C\s*$/i.test(airC));
  const celsius = isFahrenheit ? Math.round(((numberOf(airC) - 32) / 1.8) * 100) / 100 : numberOf(airC);
  const percent = numberOf(humidity);
  if (!(celsius >= -10 && celsius <= 50))
    return wrong(
      'airC',
      say`Between ${degreesInWords(-10).replace('-', '−').replace(/ °.$/, '')} and ${degreesInWords(50)}. What does the thermometer show?`,
    );
  if (percent > 0 && percent < 1) return wrong('humidity', say`${Math.round(percent * 100)} %? Type it in per cent.`);
  if (!(percent >= 0 && percent <= 100)) return wrong('humidity', say('Between 0 and 100 %. What does the hygrometer show?'));
  return { air: { airC: celsius, humidity: percent / 100 }, fault: null, field: null };
}
