import { describe, expect, it } from 'vitest'
import { outcome } from './putIn'

describe('what becomes of a file that was sent', () => {
  it('is sent, or was here already', () => {
    expect(outcome(201, '{"id":4}')).toEqual({ state: 'sent', id: 4, says: '' })
    expect(outcome(201, '{"id":4,"already":"Heron"}').says).toBe('It is here already, as “Heron”.')
  })
  it('is refused in the words of the server', () => {
    expect(outcome(422, '{"detail":"The file is empty."}')).toEqual({ state: 'refused', says: 'The file is empty.' })
  })
  it('can be sent again when it is not the file that is at fault', () => {
    for (const status of [408, 500, 503, 507]) expect(outcome(status, '{"detail":"later"}').state).toBe('lost')
    expect(outcome(502, '<html>')).toEqual({ state: 'lost', says: 'Something went wrong.' })
  })
})
