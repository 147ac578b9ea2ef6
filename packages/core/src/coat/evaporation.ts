import { say } from '@viaticum/contract';
import { air, gas, heat } from './constants.js';

/** Air over a wet surface. `humidity` 0-1, speeds m/s, temperatures °C, `sunWPerM2` W/m² of sunlight. */
export type EvaporationInput = {
  airC: number;
  humidity: number;
  airSpeed: number;
  lengthM?: number;
  waterActivity?: number;
  surfaceC?: number;
  radiation?: boolean;
  sunWPerM2?: number;
};

/** Saturation pressure of water vapour in Pa at `celsius` (Buck 1981, coefficients of 1996). */
export function saturationPressure(celsius: number): number {
  return 611.21 * Math.exp(((18.678 - celsius / 234.5) * celsius) / (257.14 + celsius));
}

/** Saturated vapour density in kg/m³ at `celsius`, by the gas law on {@link saturationPressure}. */
export function saturationDensity(celsius: number): number {
  return saturationPressure(celsius) / (gas.waterJPerKgK * (celsius + 273.15));
}

/** Heat transfer coefficient W/m²K over a plate: laminar forced flow blended with natural convection (e.g. Incropera). */
export function convection(airSpeed: number, lengthM: number, natural = air.naturalConvection): number {
  const reynolds = (airSpeed * lengthM) / air.viscosity;
  const forced = 0.664 * (air.conductivity / lengthM) * Math.sqrt(reynolds) * Math.cbrt(air.prandtl);
  return Math.cbrt(natural ** 3 + forced ** 3);
}

/** Mass transfer coefficient m/s that goes with a heat transfer coefficient (Lewis relation). */
export function massTransfer(heatTransfer: number): number {
  return heatTransfer / (air.densityKgPerM3 * air.heatCapacity * air.lewis ** (2 / 3));
}

/**
 * Water leaving a wet surface, kg/m²s (negative where it condenses), and the surface's temperature °C.
 * With `surfaceC` the temperature is held; otherwise it follows from the heat balance
 * (h_c + radiation + back)·(T_air − T) + sun = latent heat·E, by safeguarded Newton steps.
 * `radiation: false` drops the radiative and back-face exchange. Throws on a room that cannot be.
 */
export function evaporation(input: EvaporationInput): { kgPerM2S: number; surfaceC: number } {
  assertRoom(input);
  const heatTransfer = convection(input.airSpeed, input.lengthM ?? 0.4);
  const mass = massTransfer(heatTransfer);
  const activity = input.waterActivity ?? 1;
  const vapour = input.humidity * saturationDensity(input.airC);
  if (input.surfaceC !== undefined) {
    return { kgPerM2S: mass * (saturationDensity(input.surfaceC) * activity - vapour), surfaceC: input.surfaceC };
  }
  const exchange = heatTransfer + (input.radiation === false ? 0 : heat.radiation + heat.back);
  const sun = heat.sunAbsorbed * (input.sunWPerM2 ?? 0);
  const { kgPerM2S, surfaceC } = surfaceBalance({ mass, activity, vapour, exchange, sun, airC: input.airC }, input.airC - 2);
  return { kgPerM2S, surfaceC };
}

/** The heat balance with its coefficients already worked out; `guess` starts the search. */
export function surfaceBalance(
  at: { mass: number; activity: number; vapour: number; exchange: number; sun: number; airC: number },
  guess: number,
): { kgPerM2S: number; surfaceC: number; saturated: number } {
  let low = -40;
  let high = 110;
  let surfaceC = guess;
  for (let round = 0; ; round++) {
    const saturated = saturationDensity(surfaceC);
    const kgPerM2S = at.mass * (saturated * at.activity - at.vapour);
    const miss = at.exchange * (at.airC - surfaceC) + at.sun - heat.latentJPerKg * kgPerM2S;
    if (Math.abs(miss) < 1e-4 || round === 60) return { kgPerM2S, surfaceC, saturated };
    if (miss > 0) low = surfaceC;
    else high = surfaceC;
    const slope = -at.exchange - heat.latentJPerKg * at.mass * at.activity * saturated * slopeOfLog(surfaceC);
    const next = surfaceC - miss / slope;
    surfaceC = next > low && next < high ? next : (low + high) / 2;
  }
}

/** d ln ρ_s / dT, 1/K. */
function slopeOfLog(celsius: number): number {
  const base = 257.14 + celsius;
  const exponent = ((18.678 - celsius / 234.5) * celsius) / base;
  return (18.678 - (2 * celsius) / 234.5 - exponent) / base - 1 / (celsius + 273.15);
}

/** Throws a sentence where the air described cannot be. */
export function assertRoom(room: { airC: number; humidity: number; airSpeed: number; sunWPerM2?: number }): void {
  if (!(room.airC >= -20 && room.airC <= 60)) {
    throw new RangeError(say('The air must be between −20 and 60 °C (−4 and 140 °F). Enter the temperature of the room.'));
  }
  if (!(room.humidity >= 0 && room.humidity <= 1)) {
    throw new RangeError(say('Humidity must lie between 0 and 100 %. Enter what the room’s hygrometer shows.'));
  }
  if (!(room.airSpeed >= 0 && Number.isFinite(room.airSpeed))) {
    throw new RangeError(say('The draught cannot be negative. Enter 0 for still air, 0.1 m/s for a quiet room.'));
  }
  if (room.sunWPerM2 !== undefined && !(room.sunWPerM2 >= 0 && Number.isFinite(room.sunWPerM2))) {
    throw new RangeError(say('Sunlight cannot be negative. Enter 0 indoors.'));
  }
}
