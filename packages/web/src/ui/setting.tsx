import { Checkbox } from 'antd';
import { useState } from 'react';

/** What this browser is set to: takes effect at once. */
export function Setting({ said, first, onSet }: { said: string; first: boolean; onSet: (isOn: boolean) => void }) {
  const [isOn, setOn] = useState(first);
  return (
    <p>
      <Checkbox
        checked={isOn}
        onChange={({ target }) => {
          onSet(target.checked);
          setOn(target.checked);
        }}
      >
        {said}
      </Checkbox>
    </p>
  );
}
