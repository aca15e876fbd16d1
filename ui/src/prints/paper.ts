import type { Schemas } from '../api/client'

export type Paper = Schemas['Paper']

// Papers that printers and shops have.
export const papers: Paper[] = [
  { name: 'A4', widthMm: 210, heightMm: 297, marginMm: 6, gapMm: 2 },
  { name: 'A3', widthMm: 297, heightMm: 420, marginMm: 6, gapMm: 2 },
  { name: 'A5', widthMm: 148, heightMm: 210, marginMm: 6, gapMm: 2 },
  { name: 'Letter', widthMm: 215.9, heightMm: 279.4, marginMm: 6, gapMm: 2 },
  { name: 'Legal', widthMm: 215.9, heightMm: 355.6, marginMm: 6, gapMm: 2 },
]
