import { ExpandOutlined, ZoomInOutlined, ZoomOutOutlined } from '@ant-design/icons';
import { Button } from 'antd';
import { closerWords as w } from '../words/closer.js';
import type { useCloser } from './use-closer.js';

/** Nearer, farther, and all of it again: for who has no fingers on a screen and no wheel. */
export function CloserKeys({ seen, nearer, farther, showWhole }: ReturnType<typeof useCloser>) {
  return (
    <>
      <Button size="small" icon={<ZoomInOutlined />} aria-label={w.nearer} title={w.nearer} onClick={nearer} />
      <Button
        size="small"
        icon={<ZoomOutOutlined />}
        aria-label={w.farther}
        title={w.farther}
        disabled={seen.scale === 1}
        onClick={farther}
      />
      {seen.scale > 1 && (
        <Button size="small" icon={<ExpandOutlined />} aria-label={w.whole} onClick={showWhole}>
          {w.whole}
        </Button>
      )}
    </>
  );
}
