/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { ListItemNode, ListNode } from '@lexical/list';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { demoLesson } from '@viaticum/core/fixtures';
import fc from 'fast-check';
import { $getRoot, createEditor } from 'lexical';
import { asInBrowser, cleanup, onBench, server } from '../fixtures/page.fixture.js';
import { RichInput } from './rich-input.js';
import { $nodesOf, $textOf } from './rich-nodes.js';

/** What an editor holds of a text, as it would be stored. */
function throughEditor(text: string): string {
  const editor = createEditor({
    namespace: 'test',
    nodes: [ListNode, ListItemNode],
    onError: (error) => {
      throw error;
    },
  });
  editor.update(
    () => {
      $getRoot()
        .clear()
        .append(...$nodesOf(text));
    },
    { discrete: true },
  );
  return editor.read($textOf);
}

describe('words in the editor', () => {
  it.each([
    'thin it until it runs',
    '**thin** it, then **wait**',
    'Bring\n- white\n- **one** flat brush\n\nThen begin.',
    '- only\n- a list',
    '',
    'two\n\n\nempty lines',
    'a * b and ** alone',
    '<img src=x onerror=alert(1)>',
  ])('are stored as they were: %j', (text) => {
    expect(throughEditor(text)).toBe(text);
  });
  it('any text comes back, but that bold beside bold is one', () => {
    const piece = fc.oneof(fc.constantFrom('**dark**', '- ', '\n', ' ', '*'), fc.string({ unit: 'grapheme', maxLength: 8 }));
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const text = pieces.join('').replace(/\r/g, '').replaceAll('****', '** **');
        expect(throughEditor(text)).toBe(text);
        expect(throughEditor(throughEditor(text))).toBe(text);
      }),
      { seed: 11, numRuns: 300 },
    );
  });
});

describe('the field', () => {
  beforeEach(() => {
    asInBrowser();
    server({});
  });
  afterEach(cleanup);
  it('is a text of several lines with its name and two keys, and follows what is stored elsewhere', async () => {
    const onCommit = jest.fn();
    const shown = onBench(demoLesson('kettle'), () => (
      <RichInput label="say" value={'**thin** it\n- twice'} rows={2} onCommit={onCommit} />
    ));
    const field = await screen.findByRole('textbox', { name: 'say' }, { timeout: 30_000 });
    expect(field.getAttribute('aria-multiline')).toBe('true');
    await waitFor(() => expect(field.querySelector('strong')?.textContent).toBe('thin'));
    expect([...field.querySelectorAll('li')].map((item) => item.textContent)).toEqual(['twice']);
    for (const name of ['Bold: say', 'List: say'])
      expect(screen.getByRole('button', { name }).getAttribute('aria-pressed')).toBe('false');
    fireEvent.blur(field);
    expect(onCommit).not.toHaveBeenCalled();
    shown.unmount();
  });
});
