import { Checkbox } from 'antd';
import { Fold } from '../../ui/fold.js';
import { followWords as w } from '../../words/follow.js';
import type { PhoneSettings } from './phone-settings.js';
import css from './settings.module.css';

export function Settings({
  settings,
  onChange,
}: {
  settings: PhoneSettings;
  onChange: (change: Partial<PhoneSettings>) => void;
}) {
  const tick = (key: keyof PhoneSettings, label: string) => (
    <Checkbox checked={settings[key]} onChange={(event) => onChange({ [key]: event.target.checked })}>
      {' '}
      {label}
    </Checkbox>
  );
  return (
    <Fold className={css.followSettings} head={w.settings}>
      {tick('large', w.largeType)}
      {tick('metric', w.metric)}
      {tick('vibrate', w.vibrate)}
    </Fold>
  );
}
