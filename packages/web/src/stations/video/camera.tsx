import { cameraPlaces, type FilmLight, filmLights, frameRates } from '@viaticum/contract';
import { filmDefaults } from '@viaticum/core/film';
import { Select } from 'antd';
import { useSession } from '../../lesson/context.js';
import { Fold } from '../../ui/fold.js';
import { NumberField } from '../../ui/number-field.js';
import { filmWords } from '../../words/film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.shoot;

/** What the camera writes, what light there is, how fast one speaks. */
export function Camera({ film: { lesson, takes } }: { film: Filmed }) {
  const session = useSession();
  const own = lesson.film ?? {};
  const set = (film: object) => session.do('editFilm', { film });
  const places = cameraPlaces.filter((place) => takes.some((take) => take.place === place));
  return (
    <Fold head={w.camera}>
      <div className={css.asked}>
        <span>
          {w.bitRate}
          <NumberField
            label={w.bitRate}
            value={own.bitRateMbps ?? filmDefaults.bitRateMbps}
            onValue={(n) => set({ bitRateMbps: n })}
          />
        </span>
        <span>
          {w.cardSize}
          <NumberField
            label={w.cardSize}
            value={own.cardGb}
            onValue={(n) => set({ cardGb: n })}
            onClear={() => session.do('editFilm', { film: {}, clear: ['cardGb'] })}
          />
        </span>
        <span>
          {w.batteryLasts}
          <NumberField
            label={w.batteryLasts}
            value={own.batteryMin}
            onValue={(n) => set({ batteryMin: n })}
            onClear={() => session.do('editFilm', { film: {}, clear: ['batteryMin'] })}
          />
        </span>
        <span>
          {w.perGood}
          <NumberField
            label={w.perGood}
            value={own.takesPerGood ?? filmDefaults.takesPerGood}
            onValue={(n) => set({ takesPerGood: n })}
          />
        </span>
        <span>
          {w.wpm}
          <NumberField
            label={w.wpm}
            value={own.wordsPerMinute ?? filmDefaults.wordsPerMinute}
            onValue={(n) => set({ wordsPerMinute: n })}
          />
        </span>
        <span>
          {w.fps}
          <Select
            aria-label={w.fps}
            value={own.fps ?? filmDefaults.fps}
            options={frameRates.map((value) => ({ value, label: value }))}
            onChange={(fps) => set({ fps })}
          />
        </span>
        {places.map((place) => (
          <span key={place}>
            {w.lightAt(w.places[place])}
            <Select<FilmLight>
              aria-label={w.lightAt(w.places[place])}
              value={own.lights?.find((one) => one.place === place)?.light ?? 'lamp'}
              style={{ minWidth: 140 }}
              options={filmLights.map((value) => ({ value, label: w.lights[value] }))}
              onChange={(light) => session.do('setFilmLight', { place, light: light === 'lamp' ? null : light })}
            />
          </span>
        ))}
      </div>
    </Fold>
  );
}
