import { $isListItemNode, INSERT_UNORDERED_LIST_COMMAND, ListItemNode, ListNode, REMOVE_LIST_COMMAND } from '@lexical/list';
import { BOLD_STAR, UNORDERED_LIST } from '@lexical/markdown';
import { LexicalComposer } from '@lexical/react/LexicalComposer';
import { useLexicalComposerContext } from '@lexical/react/LexicalComposerContext';
import { ContentEditable } from '@lexical/react/LexicalContentEditable';
import { LexicalErrorBoundary } from '@lexical/react/LexicalErrorBoundary';
import { HistoryPlugin } from '@lexical/react/LexicalHistoryPlugin';
import { ListPlugin } from '@lexical/react/LexicalListPlugin';
import { MarkdownShortcutPlugin } from '@lexical/react/LexicalMarkdownShortcutPlugin';
import { OnChangePlugin } from '@lexical/react/LexicalOnChangePlugin';
import { RichTextPlugin } from '@lexical/react/LexicalRichTextPlugin';
import { clsx } from 'clsx';
import {
  $getRoot,
  $getSelection,
  $insertNodes,
  $isRangeSelection,
  COMMAND_PRIORITY_CRITICAL,
  FORMAT_TEXT_COMMAND,
  HISTORIC_TAG,
  PASTE_COMMAND,
} from 'lexical';
import { type CSSProperties, useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { listWords as w } from '../words/steps.js';
import css from './rich-editor.module.css';
import { $nodesOf, $textOf } from './rich-nodes.js';
import { ToggleKey } from './toggle-key.js';
import { useTyped } from './use-typed.js';

const marks = [UNORDERED_LIST, BOLD_STAR];
const throwOn = (error: Error): never => {
  throw error;
};
const $fill = (text: string) => {
  $getRoot()
    .clear()
    .append(...$nodesOf(text));
};

export type RichField = {
  label: string;
  value: string;
  rows: number;
  onCommit: (text: string, burst: string) => unknown;
};

/**
 * Words to write, with bold and lists; what is pasted comes in as words with these two marks alone. Takes effect while it is typed, and
 * when it is left.
 */
export default function RichEditor({ label, value, rows, onCommit }: RichField) {
  const typed = useTyped(value, onCommit);
  const id = useId();
  return (
    <LexicalComposer
      initialConfig={{
        namespace: 'words',
        nodes: [ListNode, ListItemNode],
        theme: { text: { bold: css.bold as string } },
        editorState: () => $fill(value),
        onError: throwOn,
      }}
    >
      <div className={clsx('field', css.richField)}>
        <span className={css.richHead}>
          <span id={id}>{label}</span>
          <Marks label={label} />
        </span>
        <RichTextPlugin
          contentEditable={
            <ContentEditable
              className={css.richWords}
              style={{ '--rows': rows } as CSSProperties}
              ariaLabelledBy={id}
              aria-multiline
              onBlur={() => typed.leave()}
            />
          }
          placeholder={null}
          ErrorBoundary={LexicalErrorBoundary}
        />
      </div>
      <HistoryPlugin />
      <ListPlugin />
      <MarkdownShortcutPlugin transformers={marks} />
      <TwoMarksOnly />
      <Held text={typed.text} onText={typed.type} />
    </LexicalComposer>
  );
}

/** Keeps the editor and the text that is stored the same, whichever of them changes. */
function Held({ text, onText }: { text: string; onText: (text: string) => void }) {
  const [editor] = useLexicalComposerContext();
  const shown = useRef(text);
  // Before the next key is heard: a text that comes back later than the next letter would take that letter away.
  useLayoutEffect(() => {
    if (text === shown.current) return;
    shown.current = text;
    editor.update(() => $fill(text), { tag: HISTORIC_TAG });
  }, [editor, text]);
  return (
    <OnChangePlugin
      ignoreSelectionChange
      onChange={(state) => {
        const next = state.read($textOf);
        if (next === shown.current) return;
        shown.current = next;
        onText(next);
      }}
    />
  );
}

/** Nothing but bold and lists comes in, by key or by paste. */
function TwoMarksOnly() {
  const [editor] = useLexicalComposerContext();
  useEffect(() => {
    const off = [
      editor.registerCommand(FORMAT_TEXT_COMMAND, (format) => format !== 'bold', COMMAND_PRIORITY_CRITICAL),
      editor.registerCommand(
        PASTE_COMMAND,
        (event) => {
          const text = event instanceof ClipboardEvent ? event.clipboardData?.getData('text/plain') : undefined;
          if (!text) return false;
          event.preventDefault();
          const selection = $getSelection();
          const lines = text.replace(/\r\n?/g, '\n');
          if ($isRangeSelection(selection) && !/\n|\*\*|^- /.test(lines)) selection.insertText(lines);
          else $insertNodes($nodesOf(lines));
          return true;
        },
        COMMAND_PRIORITY_CRITICAL,
      ),
    ];
    return () => {
      for (const undo of off) undo();
    };
  }, [editor]);
  return null;
}

/** The two marks of what is chosen. */
function Marks({ label }: { label: string }) {
  const [editor] = useLexicalComposerContext();
  const [on, setOn] = useState({ bold: false, list: false });
  useEffect(
    () =>
      editor.registerUpdateListener(({ editorState }) =>
        editorState.read(() => {
          const selection = $getSelection();
          if (!$isRangeSelection(selection)) return;
          const bold = selection.hasFormat('bold');
          const list =
            selection.anchor.getNode().getParents().some($isListItemNode) || $isListItemNode(selection.anchor.getNode());
          setOn((before) => (before.bold === bold && before.list === list ? before : { bold, list }));
        }),
      ),
    [editor],
  );
  return (
    <span className={css.richKeys}>
      <ToggleKey
        said={w.bold}
        label={`${w.bold}: ${label}`}
        isOn={on.bold}
        keepsFocus
        onToggle={() => editor.dispatchCommand(FORMAT_TEXT_COMMAND, 'bold')}
      />
      <ToggleKey
        said={w.list}
        label={`${w.list}: ${label}`}
        isOn={on.list}
        keepsFocus
        onToggle={() => editor.dispatchCommand(on.list ? REMOVE_LIST_COMMAND : INSERT_UNORDERED_LIST_COMMAND, undefined)}
      />
    </span>
  );
}
