import { say } from '@viaticum/contract';
import PDFDocument from 'pdfkit';
import { type Face, fonts } from './fonts.js';

/** PDF user units in a millimetre (ISO 32000: 1/72 in). */
export const MM = 72 / 25.4;
export const INK = '#1d1d1d';
export const SOFT = '#5c5c5c';
export const HAIR = '#b4b4b4';

export const papers = {
  a4: { widthMm: 210, heightMm: 297 },
  letter: { widthMm: 215.9, heightMm: 279.4 },
} as const;
export type PaperName = keyof typeof papers;

/** Sizes and leadings, pt. What is read while painting grows with `scale`; titles do not. */
const styles = {
  body: ['sans', 9.6, 13.6, INK, true],
  strong: ['sansBold', 9.6, 13.6, INK, true],
  small: ['sans', 8, 11.2, SOFT, true],
  tiny: ['sans', 7.2, 9.4, INK, true],
  label: ['sansBold', 8.2, 12, INK, true],
  voice: ['voice', 12.4, 16.2, INK, true],
  h1: ['serifBold', 40, 42, INK, false],
  h2: ['serifBold', 27, 31, INK, false],
  h3: ['serifBold', 16.5, 19.5, INK, true],
  number: ['serifMedium', 30, 30, INK, false],
  lead: ['serif', 13.5, 18, SOFT, false],
} as const satisfies Record<string, readonly [Face, number, number, string, boolean]>;
export type Style = keyof typeof styles;

type Element = PDFKit.PDFStructureElement;
type TextOptions = { tag?: string; attributes?: object; align?: 'left' | 'right' | 'center'; colour?: string };
export type SheetOptions = { title: string; language: string; paper: PaperName; scale: number; head: string };

/** Letters that none of the faces has: named before anything is printed, and shown as an empty square. */
export function lacking(texts: Iterable<string>): string[] {
  const found = new Set<string>();
  for (const text of texts) for (const letter of text) if (!isDrawn(letter)) found.add(letter);
  return [...found];
}
/** Latin with its accents, punctuation and signs that the faces hold. */
const isDrawn = (letter: string): boolean =>
  /[\n\r\t\u0020-\u007e\u00a0-\u017f\u2010-\u2015\u2018-\u201d\u2022\u2026\u2032\u2033\u20ac\u2212\u00d7]/.test(letter);
const drawn = (text: string): string =>
  [...text.normalize('NFC')]
    .map((letter) => (isDrawn(letter) ? letter : '\u25a1'))
    .join('')
    .replaceAll('\u25a1', '?');

/**
 * A tagged PDF of pages on which texts, pictures and lines are put in mm from the upper left corner. All that carries meaning is tagged in
 * reading order; furniture is an artefact. Running heads and page numbers are put when all pages are known.
 */
export class Sheet {
  readonly doc: PDFKit.PDFDocument;
  readonly paper: (typeof papers)[PaperName];
  readonly left = 20;
  readonly right: number;
  readonly top = 26;
  readonly bottom: number;
  readonly chapters: { title: string; page: number }[] = [];
  /** What stands over each page; empty for one without a running head. */
  readonly heads: string[] = [];
  /** Draws something into the head of a page, once all are known. */
  readonly furniture = new Map<number, () => void>();
  private readonly root: Element;
  private parent: Element;
  private readonly chunks: Uint8Array[] = [];
  private chapterName = '';
  /** Where the last chapter ended, where it says so. */
  private ended: { page: number; yMm: number } | null = null;

  constructor(private readonly options: SheetOptions) {
    this.paper = papers[options.paper];
    this.right = this.paper.widthMm - 20;
    this.bottom = this.paper.heightMm - 20;
    this.doc = new PDFDocument({
      size: [this.paper.widthMm * MM, this.paper.heightMm * MM],
      margin: 0,
      autoFirstPage: false,
      bufferPages: true,
      pdfVersion: '1.7',
      tagged: true,
      lang: options.language,
      displayTitle: true,
      compress: true,
      font: null as unknown as string,
      info: { Title: drawn(options.title), Creator: 'Viaticum', Subject: say('Acrylic painting lesson in steps') },
    } as PDFKit.PDFDocumentOptions);
    this.doc.on('data', (chunk: Uint8Array) => this.chunks.push(chunk));
    for (const [face, bytes] of Object.entries(fonts())) this.doc.registerFont(face, bytes);
    this.root = this.doc.struct('Document');
    this.doc.addStructure(this.root);
    this.parent = this.root;
  }

  get width(): number {
    return this.right - this.left;
  }
  get pageCount(): number {
    return this.doc.bufferedPageRange().count;
  }
  private size(style: Style): { size: number; leading: number } {
    const [, size, leading, , grows] = styles[style];
    const scale = grows ? this.options.scale : 1;
    return { size: size * scale, leading: leading * scale };
  }
  private take(style: Style): number {
    const [face] = styles[style];
    const { size, leading } = this.size(style);
    this.doc.font(face).fontSize(size);
    return leading - this.doc.currentLineHeight();
  }
  /** How high a text is in a column of a width, mm. */
  heightOf(text: string, style: Style, widthMm: number): number {
    const lineGap = this.take(style);
    return text === '' ? 0 : this.doc.heightOfString(drawn(text), { width: widthMm * MM, lineGap }) / MM;
  }
  /** Puts a text without a tag of its own: within one that is open. Gives its height, mm. */
  raw(
    text: string,
    xMm: number,
    yMm: number,
    widthMm: number,
    style: Style,
    { align = 'left', colour }: TextOptions = {},
  ): number {
    if (text === '') return 0;
    const height = this.heightOf(text, style, widthMm);
    const lineGap = this.take(style);
    this.doc.fillColor(colour ?? styles[style][3]);
    this.doc.text(drawn(text), xMm * MM, yMm * MM, { width: widthMm * MM, lineGap, align });
    return height;
  }
  /** A word that may not be broken, in the middle of a field. */
  mark(text: string, xMm: number, yMm: number, widthMm: number, size: number, colour: string): void {
    this.doc.font('sansBold').fontSize(size).fillColor(colour);
    this.doc.text(drawn(text), xMm * MM, yMm * MM, { width: widthMm * MM, align: 'center', lineBreak: false });
  }
  /** Puts a text under a tag; gives its height, mm. */
  text(text: string, xMm: number, yMm: number, widthMm: number, style: Style, options: TextOptions = {}): number {
    if (text === '') return 0;
    let height = 0;
    this.tagged(options.tag ?? 'P', options.attributes ?? {}, () => {
      height = this.raw(text, xMm, yMm, widthMm, style, options);
    });
    return height;
  }
  /** What is drawn within is one element. */
  tagged(tag: string, attributes: object, draw: () => void): void {
    this.parent.add(this.doc.struct(tag, attributes, [draw]));
  }
  /** What is put within stands in an element of its own. */
  within(tag: string, attributes: object, put: () => void): void {
    const element = this.doc.struct(tag, attributes);
    this.parent.add(element);
    const before = this.parent;
    this.parent = element;
    put();
    this.parent = before;
    element.end();
  }
  /** An element that is filled when other pages are there; it is ended by who fills it. */
  addLater(element: Element): void {
    // Beside its section, which is ended before.
    this.root.add(element);
  }
  into(element: Element, put: () => void): void {
    const before = this.parent;
    this.parent = element;
    put();
    this.parent = before;
  }
  /** What is drawn within carries no meaning of its own. */
  artefact(draw: () => void): void {
    this.doc.markContent('Artifact', { type: 'Layout' });
    draw();
    this.doc.endMarkedContent();
  }
  rule(xMm: number, yMm: number, widthMm: number, width = 0.3, colour = HAIR): void {
    this.artefact(() =>
      this.doc
        .lineWidth(width)
        .strokeColor(colour)
        .moveTo(xMm * MM, yMm * MM)
        .lineTo((xMm + widthMm) * MM, yMm * MM)
        .stroke(),
    );
  }
  swatch(xMm: number, yMm: number, widthMm: number, heightMm: number, colour: string): void {
    this.artefact(() =>
      this.doc
        .rect(xMm * MM, yMm * MM, widthMm * MM, heightMm * MM)
        .lineWidth(0.4)
        .fillAndStroke(colour, '#555'),
    );
  }
  /** A picture with what it shows in words; an empty frame where there is none. */
  picture(bytes: Uint8Array | undefined, xMm: number, yMm: number, widthMm: number, heightMm: number, alt: string): void {
    const bbox = [xMm, yMm, xMm + widthMm, yMm + heightMm].map((at) => at * MM);
    this.tagged('Figure', { alt: drawn(alt), bbox }, () => {
      if (bytes) this.doc.image(Buffer.from(bytes), xMm * MM, yMm * MM, { width: widthMm * MM, height: heightMm * MM });
      this.doc
        .lineWidth(0.3)
        .strokeColor('#8a8a8a')
        .rect(xMm * MM, yMm * MM, widthMm * MM, heightMm * MM)
        .stroke();
    });
  }

  /** A new page; gives where its text begins, mm. */
  page(head = this.chapterName): number {
    this.doc.addPage({ size: [this.paper.widthMm * MM, this.paper.heightMm * MM], margin: 0 });
    this.heads.push(head);
    return this.top;
  }
  /** A section of its own in the structure, with what is put in it. */
  section(title: string, put: () => void): void {
    this.parent = this.root;
    this.within('Sect', { title: drawn(title) }, put);
  }
  /**
   * A chapter in the contents and the outline, on a new page; one that needs no more than `needMm` stands below the last where there is room.
   * `put` gets where its text begins, and may give where it ends.
   */
  chapter(title: string, intro: string, put: (yMm: number) => unknown, needMm = Number.POSITIVE_INFINITY): void {
    this.chapterName = title;
    const fits = this.ended !== null && this.ended.page === this.pageCount && this.bottom - this.ended.yMm > needMm;
    let y = fits && this.ended ? this.ended.yMm + 10 : this.page(title);
    if (fits) {
      this.rule(this.left, y, this.width, 0.6, INK);
      y += 6;
    }
    this.chapters.push({ title, page: this.pageCount });
    this.doc.outline.addItem(drawn(title));
    this.section(title, () => {
      y += this.text(title, this.left, y, this.width, 'h2', { tag: 'H2' }) + 1.5;
      y += intro ? this.text(intro, this.left, y, 140, 'lead') + 5 : 4;
      const end = put(y);
      this.ended = typeof end === 'number' ? { page: this.pageCount, yMm: end } : null;
    });
  }
  /** Where something so high may stand: here, or on a new page. */
  room(yMm: number, heightMm: number): number {
    return yMm + heightMm > this.bottom ? this.page() : yMm;
  }

  /** A table: columns with a width, a row each; it goes on on a new page with its head. Gives where it ends, mm. */
  table(
    yMm: number,
    columns: readonly { title: string; xMm: number; widthMm: number; align?: 'right' }[],
    rows: readonly (readonly string[])[],
  ): number {
    let y = yMm;
    this.within('Table', {}, () => {
      const head = () => {
        this.within('TR', {}, () => {
          for (const { title, xMm, widthMm, align } of columns)
            if (title)
              this.text(title, xMm, y, widthMm, 'small', { tag: 'TH', attributes: { scope: 'Column' }, ...(align && { align }) });
        });
        y += 5.2 * Math.max(1, this.options.scale);
        this.rule(this.left, y, this.width, 0.6, INK);
        y += 1.6;
      };
      head();
      for (const row of rows) {
        const height = Math.max(
          ...row.map((cell, i) => this.heightOf(cell, i === 0 ? 'strong' : 'body', columns[i]?.widthMm ?? 20)),
        );
        if (y + height > this.bottom) {
          y = this.page();
          head();
        }
        this.within('TR', {}, () => {
          row.forEach((cell, i) => {
            const column = columns[i];
            if (column)
              this.text(cell, column.xMm, y, column.widthMm, i === 0 ? 'strong' : 'body', {
                tag: 'TD',
                ...(column.align && { align: column.align }),
              });
          });
        });
        y += height + 1.1;
        this.rule(this.left, y, this.width, 0.25);
        y += 1.3;
      }
    });
    return y;
  }

  /** Puts running heads and page numbers, and gives the file. */
  async finish(withHeads: boolean): Promise<{ bytes: Uint8Array; pages: number }> {
    const pages = this.pageCount;
    for (let i = 0; i < pages; i++) {
      const head = this.heads[i];
      if (!withHeads || !head) continue;
      this.doc.switchToPage(i);
      this.doc.markContent('Artifact', { type: 'Pagination' });
      this.doc.font('sans').fontSize(8).fillColor(SOFT);
      this.doc.text(drawn(this.options.head), this.left * MM, 12 * MM, {
        width: (this.width * MM) / 2,
        lineBreak: false,
        ellipsis: true,
        height: 12,
      });
      this.doc.text(drawn(head), (this.left + this.width / 2) * MM, 12 * MM, {
        width: (this.width * MM) / 2,
        align: 'right',
        lineBreak: false,
      });
      const own = this.furniture.get(i);
      if (own) own();
      else
        this.doc
          .lineWidth(0.3)
          .strokeColor(HAIR)
          .moveTo(this.left * MM, 18.3 * MM)
          .lineTo(this.right * MM, 18.3 * MM)
          .stroke();
      this.doc.font('sansBold').fontSize(8.5).fillColor(INK);
      this.doc.text(say`${i + 1} of ${pages}`, this.left * MM, (this.paper.heightMm - 13) * MM, {
        width: this.width * MM,
        align: 'right',
        lineBreak: false,
      });
      this.doc.endMarkedContent();
    }
    this.root.end();
    const ended = new Promise<void>((done) => this.doc.on('end', () => done()));
    this.doc.end();
    await ended;
    return { bytes: Buffer.concat(this.chunks), pages };
  }
}
