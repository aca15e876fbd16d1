import { expect, test } from 'vitest'
import { letIn, shut, shuts } from './door'

const asked = (path: string) => {
  const request = new Request(`http://studio${path}`)
  shuts.onRequest!({ request } as never)
  return (status: number) => shuts.onResponse!({ request, response: { status } } as never)
}

test('an answer that asks who this is shuts the door', () => {
  asked('/api/today')(200)
  expect(shut.value).toBe(false)
  asked('/api/sign-in')(401)
  expect(shut.value, 'a password that is wrong').toBe(false)
  asked('/api/today')(401)
  expect(shut.value).toBe(true)
  letIn()
  expect(shut.value).toBe(false)
})

test('an answer to what was asked before somebody came in does not shut them out', () => {
  const late = asked('/api/plan')
  letIn()
  late(401)
  expect(shut.value).toBe(false)
  asked('/api/plan')(401)
  expect(shut.value).toBe(true)
})
