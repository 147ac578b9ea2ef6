import { useMutation } from '@tanstack/react-query';
import type { Measures } from '@viaticum/contract';
import { measuresNow } from '@viaticum/core/units';
import { App, Segmented } from 'antd';
import { call } from '../api/http.js';
import { takeMeasures } from '../ui/measures.js';
import { accountWords } from '../words/account.js';
import css from './account.module.css';

const words = accountWords.measures;

/** Degrees, volumes and the clock, as one is used to them; lengths are a lesson's own. The page is read anew in them. */
export function HowMeasured() {
  const { message } = App.useApp();
  const measures = measuresNow();
  const save = useMutation({
    mutationFn: (next: Measures) => call('PUT', '/api/account/measures', next),
    onSuccess: (_, next) => {
      takeMeasures(next);
      location.reload();
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
  const choice = <K extends keyof Measures>(
    key: K,
    label: string,
    options: { value: NonNullable<Measures[K]>; label: string }[],
  ) => (
    <p className={css.measure}>
      <span>{label}</span>
      <Segmented
        aria-label={label}
        value={measures[key] as NonNullable<Measures[K]>}
        options={options}
        onChange={(value) => save.mutate({ ...measures, [key]: value })}
      />
    </p>
  );
  return (
    <section>
      <h2>{words.title}</h2>
      <p className="quiet">{words.about}</p>
      {choice('language', words.language, [
        { value: 'en', label: 'English' },
        { value: 'de', label: 'Deutsch' },
      ])}
      {choice('temperature', words.temperature, [
        { value: 'C', label: '°C' },
        { value: 'F', label: '°F' },
      ])}
      {choice('volume', words.volume, [
        { value: 'ml', label: 'ml' },
        { value: 'fl oz', label: 'fl oz' },
      ])}
      {choice('clock', words.clock, [
        { value: '24', label: '14:05' },
        { value: '12', label: '2:05 pm' },
      ])}
    </section>
  );
}
