import { answerOf, api, Trouble, type Schemas } from '../api/client'

// What a browser and its keys say to each other. Where nobody touches a key, or the
// browser has none, that is said and nothing else happens.
export const canPasskeys = () =>
  typeof PublicKeyCredential !== 'undefined' && 'parseCreationOptionsFromJSON' in PublicKeyCredential

async function touched<T extends Credential>(ask: Promise<Credential | null>): Promise<T> {
  try {
    const credential = await ask
    if (credential) return credential as T
  } catch {
    // the browser's words are not for people
  }
  throw new Trouble(0, '', 'No passkey was given. Try again, or sign in by password.', {})
}

type Asked = { publicKey: never }

export async function makePasskey(device: string) {
  const begun = await answerOf(api.POST('/api/passkeys/begin'))
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON((begun.options as Asked).publicKey)
  const key = await touched<PublicKeyCredential>(navigator.credentials.create({ publicKey }))
  const body = { id: begun.id, answer: key.toJSON() as unknown, device } as Schemas['CeremonyAnswer']
  return answerOf(api.POST('/api/passkeys', { body }))
}

export async function enterByPasskey(device: string) {
  const begun = await answerOf(api.POST('/api/sign-in/passkey/begin'))
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON((begun.options as Asked).publicKey)
  const key = await touched<PublicKeyCredential>(navigator.credentials.get({ publicKey }))
  const body = { id: begun.id, answer: key.toJSON() as unknown, device } as Schemas['CeremonyAnswer']
  return answerOf(api.POST('/api/sign-in/passkey', { body }))
}
