declare module 'psychrolib' {
  const psychrolib: {
    SetUnitSystem(unit: number): void;
    SI: number;
    GetSatVapPres(celsius: number): number;
    GetTWetBulbFromRelHum(celsius: number, humidity: number, pascal: number): number;
    GetVapPresFromRelHum(celsius: number, humidity: number): number;
  };
  export default psychrolib;
}
declare module 'spectral.js' {
  export class Color {
    constructor(color: string);
    Lab?: number[];
    sRGB: number[];
    OKLab: number[];
    toString(): string;
  }
  export function mix(...colors: [Color, number][]): Color;
}
declare module '*/paint.mjs' {
  type Painted = { width: number; height: number; rgb: Uint8Array; labels: Uint8Array; names: string[] };
  type Options = {
    scene?: 'balloons' | 'kettle' | 'star' | 'roofs' | 'lamp' | 'abstract' | 'wool';
    width?: number;
    seed?: number;
    without?: string[];
  };
  export const scenes: Record<
    string,
    { canvas: { widthMm: number; heightMm: number }; areas: { id: string; name: string; outline: [number, number][][][] }[] }
  >;
  export function paint(options: Options): Painted;
  export function photographed(options: Options): Promise<Painted>;
}
declare module 'jstat' {
  const jstat: {
    normal: {
      cdf(x: number, mean: number, deviation: number): number;
      pdf(x: number, mean: number, deviation: number): number;
      inv(share: number, mean: number, deviation: number): number;
    };
    binomial: { cdf(count: number, of: number, chance: number): number };
    gamma: { inv(share: number, shape: number, scale: number): number };
    mean(values: number[]): number;
    stdev(values: number[], isSample?: boolean): number;
    quantiles(values: number[], at: number[], alphap?: number, betap?: number): number[];
  };
  export default jstat;
}
declare module '*/topic.mjs' {
  /** Turns a station to a topic, as a user does: its group, then itself. */
  export function topic(page: import('@playwright/test').Page, name: string): Promise<void>;
}
declare module 'webvtt-parser' {
  export class WebVTTParser {
    parse(
      text: string,
      mode: 'metadata' | 'chapters',
    ): { cues: { startTime: number; endTime: number; text: string; id: string }[]; errors: object[] };
  }
}
