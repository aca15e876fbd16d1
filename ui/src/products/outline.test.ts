import { describe, expect, it } from 'vitest'
import { outlinePath } from './outline'

describe('outlines', () => {
  it('stay within their box and close', () => {
    for (const kind of ['disc', 'oval', 'arch', 'heart', 'rectangle'] as const) {
      const path = outlinePath(kind, 10, 20, 80, 90, 6)
      expect(path.endsWith('Z'), kind).toBe(true)
      expect(path, kind).not.toContain('NaN')
    }
  })
  it('have the corners that are asked for, and no more than fit', () => {
    expect(outlinePath('rectangle', 0, 0, 10, 10)).toBe('M0 0H10V10H0Z')
    expect(outlinePath('rectangle', 0, 0, 10, 20, 99)).toContain('a5 5 0 0 1 5 5')
  })
  it('stand an arch on upright sides', () => {
    expect(outlinePath('arch', 0, 0, 10, 15)).toBe('M0 15V5A5 5 0 0 1 10 5V15Z')
  })
})
