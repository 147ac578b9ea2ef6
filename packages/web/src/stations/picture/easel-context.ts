import { createContext, useContext, useEffect, useMemo, useRef, useState } from 'react';
import type { ToMm } from '../../ui/point.js';

/** What hands do on the easel: look, crop the picture, edit an outline, draw a new one, or what a topic asks for (`place`). */
type Mode = 'look' | 'crop' | 'edit' | 'draw' | 'place';

export type EaselView = {
  mode: Mode;
  setMode: (mode: Mode) => void;
  /** Shown instead of the picture: values, greys. */
  base: string | null;
  setBase: (url: string | null) => void;
  turned: { mirror: boolean; upside: boolean };
  setTurned: (turned: { mirror: boolean; upside: boolean }) => void;
  /** The SVG group into which topics draw, in mm; null until it is there. */
  layer: SVGGElement | null;
  setLayer: (layer: SVGGElement | null) => void;
  /** Millimetres a screen pixel covers. */
  unit: number;
  setUnit: (unit: number) => void;
  toMm: ToMm;
  setToMm: (toMm: ToMm) => void;
  /** Topics that draw outlines of their own hide the lesson's. */
  hideOutlines: boolean;
  setHideOutlines: (hide: boolean) => void;
  hint: string;
  setHint: (hint: string) => void;
};
export const EaselContext = createContext<EaselView | null>(null);
export function useEasel(): EaselView {
  const easel = useContext(EaselContext);
  if (!easel) throw new Error('outside of the picture station');
  return easel;
}

/** Shows another picture on the easel for as long as the caller stands. */
export function useBase(url: string | null): void {
  const { setBase } = useEasel();
  useEffect(() => {
    setBase(url);
    return () => setBase(null);
  }, [url, setBase]);
}

/** Hides the outlines of the lesson's areas for as long as the caller stands. */
export function useHiddenOutlines(): void {
  const { setHideOutlines } = useEasel();
  useEffect(() => {
    setHideOutlines(true);
    return () => setHideOutlines(false);
  }, [setHideOutlines]);
}

/** The line under the easel, for as long as the caller stands. */
export function useHint(hint: string): void {
  const { setHint } = useEasel();
  useEffect(() => {
    setHint(hint);
    return () => setHint('');
  }, [hint, setHint]);
}

/** What an easel shows and how it is worked on, for a station that has one. */
export function useEaselState(): EaselView {
  const [mode, setMode] = useState<Mode>('look');
  const [base, setBase] = useState<string | null>(null);
  const [turned, setTurned] = useState({ mirror: false, upside: false });
  const [layer, setLayer] = useState<SVGGElement | null>(null);
  const [unit, setUnit] = useState(1);
  const measure = useRef<ToMm>(() => [0, 0]);
  const [hint, setHint] = useState('');
  const [hideOutlines, setHideOutlines] = useState(false);
  const stable = useMemo(
    () => ({
      toMm: ((event) => measure.current(event)) as ToMm,
      setToMm: (next: ToMm) => {
        measure.current = next;
      },
    }),
    [],
  );
  return useMemo(
    () => ({
      mode,
      setMode,
      base,
      setBase,
      turned,
      setTurned,
      layer,
      setLayer,
      unit,
      setUnit,
      ...stable,
      hideOutlines,
      setHideOutlines,
      hint,
      setHint,
    }),
    [mode, base, turned, layer, unit, hideOutlines, hint, stable],
  );
}
