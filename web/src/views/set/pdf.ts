import type { GigSheet, SheetList } from '@fulgor/core/sheets'
import type { jsPDF } from 'jspdf'
import boldUrl from 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed-Bold.ttf?url'
import plainUrl from 'dejavu-fonts-ttf/ttf/DejaVuSansCondensed.ttf?url'

export const PAPERS = ['a4', 'letter'] as const
export type Paper = (typeof PAPERS)[number]

/** Both faces as bytes; they hold what names of songs are written in. */
export type Faces = Readonly<Record<'plain' | 'bold', Uint8Array>>

const FAMILY = 'Fulgor'
const MARGIN = 34
/** pt of type: from the largest that is tried to the smallest that is read at a stand. */
const LARGEST = 15
const SMALLEST = 8

export async function loadFaces(): Promise<Faces> {
  const [plain, bold] = await Promise.all(
    [plainUrl, boldUrl].map(async (url) => {
      const answer = await fetch(url)
      if (!answer.ok) throw new Error('The type for the paper could not be loaded.')
      return new Uint8Array(await answer.arrayBuffer())
    }),
  )
  return { plain, bold }
}

function binary(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 8_192) text += String.fromCharCode(...bytes.subarray(i, i + 8_192))
  return text
}

async function blank(paper: Paper, faces: Faces, title: string): Promise<jsPDF> {
  const { jsPDF: Pdf } = await import('jspdf')
  const doc = new Pdf({ unit: 'pt', format: paper, compress: true })
  doc.addFileToVFS('plain.ttf', btoa(binary(faces.plain)))
  doc.addFont('plain.ttf', FAMILY, 'normal')
  doc.addFileToVFS('bold.ttf', btoa(binary(faces.bold)))
  doc.addFont('bold.ttf', FAMILY, 'bold')
  doc.setProperties({ title })
  return doc
}

/** Something that is drawn at a height and says how far down it went. */
class Pen {
  y = MARGIN
  pages = 1
  constructor(
    readonly doc: jsPDF,
    /** Only measured: nothing is drawn. */
    readonly dry: boolean,
  ) {}

  get width(): number {
    return this.doc.internal.pageSize.getWidth() - 2 * MARGIN
  }
  get bottom(): number {
    return this.doc.internal.pageSize.getHeight() - MARGIN
  }

  /** Room for so many pt, on a new page if need be. */
  room(pt: number): void {
    if (this.y + pt <= this.bottom) return
    this.pages++
    this.y = MARGIN
    if (!this.dry) this.doc.addPage()
  }

  /** @returns width of what was written, pt */
  text(words: string, x: number, size: number, bold = false, most = Infinity, right = false): number {
    this.doc.setFont(FAMILY, bold ? 'bold' : 'normal')
    this.doc.setFontSize(size)
    let shown = words
    while (shown.length > 1 && this.doc.getTextWidth(shown) > most) shown = `${shown.slice(0, -2).trimEnd()}…`
    if (!this.dry && shown !== '') this.doc.text(shown, MARGIN + x, this.y, right ? { align: 'right' } : {})
    return this.doc.getTextWidth(shown)
  }

  lines(words: string, size: number, most: number): string[] {
    this.doc.setFont(FAMILY, 'normal')
    this.doc.setFontSize(size)
    return this.doc.splitTextToSize(words, most) as string[]
  }

  rule(weight: number): void {
    if (this.dry) return
    this.doc.setLineWidth(weight)
    this.doc.line(MARGIN, this.y, MARGIN + this.width, this.y)
  }
}

function drawGig(pen: Pen, sheet: GigSheet, size: number): void {
  const { width } = pen
  pen.y += size * 1.5
  pen.text(sheet.title, 0, size * 1.7, true, width)
  if (sheet.about !== '') {
    pen.y += size * 1.3
    pen.text(sheet.about, 0, size * 0.9, false, width)
  }
  pen.y += size * 0.6
  const line = size * 1.28
  for (const song of sheet.songs) {
    pen.room(line * Math.min(3, 1 + song.parts.length) + size)
    pen.rule(1.2)
    pen.y += line
    const about = [song.about, song.guitar].filter(Boolean).join(' · ')
    const aside = pen.text(about, width, size * 0.8, false, width * 0.5, true)
    pen.text(song.cue, 0, size * 0.9)
    pen.text(song.name, size * 2.8, size * 1.15, true, width - aside - size * 3.6)
    for (const part of song.parts) {
      pen.room(line)
      pen.y += line
      pen.text(part.press, 0, size * 1.05, true, size * 8)
      pen.text(`${part.number} ${part.sound}`.trim() || 'nothing', size * 8.5, size, part.press !== '', width * 0.34)
      const from = size * 8.5 + width * 0.36
      pen.text(`${part.part}${part.sung && !/sung/i.test(part.part) ? ', sung' : ''} · ${part.bars}`, from, size * 0.8, false, width - from)
      if (part.also.length > 0) {
        pen.y += size * 1.02
        pen.text(part.also.join('; '), from, size * 0.75, false, width - from)
      }
    }
    pen.y += size * 0.55
  }
  pen.rule(1.2)
}

/** The gig sheet, as large as fits one page; more pages only where the smallest type does not fit. */
export async function gigPdf(
  sheet: GigSheet,
  paper: Paper,
  faces: Faces,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; pages: number; size: number }> {
  const doc = await blank(paper, faces, sheet.title)
  let size = LARGEST
  for (; size > SMALLEST; size -= 0.5) {
    const dry = new Pen(doc, true)
    drawGig(dry, sheet, size)
    if (dry.pages === 1) break
  }
  const pen = new Pen(doc, false)
  drawGig(pen, sheet, size)
  return { bytes: new Uint8Array(doc.output('arraybuffer')), pages: pen.pages, size }
}

/** A list with headings; with boxes to tick where `ticks`. */
export async function listPdf(
  sheet: SheetList,
  paper: Paper,
  faces: Faces,
  ticks: boolean,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; pages: number }> {
  const doc = await blank(paper, faces, sheet.title)
  const pen = new Pen(doc, false)
  const size = 12
  pen.y += 18
  pen.text(sheet.title, 0, 18, true, pen.width)
  pen.y += 17
  pen.text(sheet.about, 0, 11, false, pen.width)
  pen.y += 8
  for (const { name, lines } of sheet.groups) {
    if (lines.length === 0) continue
    pen.room(60)
    pen.y += 10
    pen.rule(1.2)
    pen.y += 18
    pen.text(name, 0, 14, true, pen.width)
    for (const words of lines) {
      const indent = ticks ? 20 : 0
      for (const [i, text] of pen.lines(words, size, pen.width - indent).entries()) {
        pen.room(18)
        pen.y += i === 0 ? 19 : 15
        if (ticks && i === 0) {
          doc.setLineWidth(0.9)
          doc.rect(MARGIN, pen.y - 9.5, 10, 10)
        }
        pen.text(text, indent, size)
      }
    }
  }
  return { bytes: new Uint8Array(doc.output('arraybuffer')), pages: pen.pages }
}
