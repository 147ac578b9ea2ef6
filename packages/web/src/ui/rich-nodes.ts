import { $createListItemNode, $createListNode, $isListItemNode, $isListNode, type ListNode } from '@lexical/list';
import { type RichLine, richLines, richWords } from '@viaticum/core/text';
import {
  $createParagraphNode,
  $createTextNode,
  $getRoot,
  $isElementNode,
  $isLineBreakNode,
  type ElementNode,
  type LexicalNode,
} from 'lexical';

/*
 * Words with two marks (bold, list) as the editor's nodes and back. What is stored stays the plain text of `core/text`: the nodes live only
 * while somebody writes.
 */

const filled = <T extends ElementNode>(node: T, line: RichLine): T => {
  for (const { text, isBold } of line.spans) {
    const words = $createTextNode(text);
    if (isBold) words.toggleFormat('bold');
    node.append(words);
  }
  return node;
};

/** Paragraphs and lists of a stored text. Within an update of the editor only. */
export function $nodesOf(text: string): ElementNode[] {
  const nodes: ElementNode[] = [];
  for (const line of richLines(text)) {
    const last = nodes.at(-1);
    if (!line.isItem) nodes.push(filled($createParagraphNode(), line));
    else if ($isListNode(last)) last.append(filled($createListItemNode(), line));
    else nodes.push($createListNode('bullet').append(filled($createListItemNode(), line)));
  }
  return nodes;
}

/** One line, or several where it was broken within. */
function $linesIn(node: ElementNode, isItem: boolean): RichLine[] {
  const lines: RichLine[] = [{ isItem, spans: [] }];
  for (const child of node.getChildren()) {
    if ($isLineBreakNode(child)) lines.push({ isItem, spans: [] });
    else if ($isElementNode(child)) lines.push(...$linesOf(child));
    else lines.at(-1)?.spans.push({ text: child.getTextContent(), isBold: isBold(child) });
  }
  return lines;
}
const isBold = (node: LexicalNode): boolean =>
  'hasFormat' in node && (node as { hasFormat(f: 'bold'): boolean }).hasFormat('bold');
const $itemsOf = (list: ListNode): RichLine[] =>
  list.getChildren().flatMap((item) => ($isListItemNode(item) ? $linesIn(item, true) : []));
const $linesOf = (node: ElementNode): RichLine[] => ($isListNode(node) ? $itemsOf(node) : $linesIn(node, false));

/** The text that is stored for what the editor holds. */
export const $textOf = (): string =>
  richWords(
    $getRoot()
      .getChildren()
      .flatMap((node) => ($isElementNode(node) ? $linesOf(node) : [])),
  );
