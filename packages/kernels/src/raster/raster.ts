/** Pixels of a picture: four bytes each (red, green, blue, alpha; sRGB), row by row. */
export type Rgba = { readonly width: number; readonly height: number; readonly data: Uint8ClampedArray | Uint8Array };
/** One number a pixel, row by row. */
export type Plane = { readonly width: number; readonly height: number; readonly data: Float32Array };
/** CIE L*a*b* (D65) of every pixel, in three planes. */
export type LabRaster = {
  readonly width: number;
  readonly height: number;
  readonly l: Float32Array;
  readonly a: Float32Array;
  readonly b: Float32Array;
};
/** A region number a pixel. */
export type Labels = { readonly width: number; readonly height: number; readonly data: Int32Array };

export const plane = (width: number, height: number): Plane => ({ width, height, data: new Float32Array(width * height) });
export const labels = (width: number, height: number): Labels => ({ width, height, data: new Int32Array(width * height) });
/** Regions counted anew without gaps, in the order of their numbers: `kept` names for each the number that it had. */
export function recounted(map: Labels): { map: Labels; kept: number[] } {
  const kept = [...new Set(map.data)].sort((a, b) => a - b);
  const place = new Map(kept.map((label, i) => [label, i]));
  return { map: { ...map, data: map.data.map((label) => place.get(label) as number) }, kept };
}
export const rgba = (width: number, height: number): Rgba => ({ width, height, data: new Uint8ClampedArray(width * height * 4) });
