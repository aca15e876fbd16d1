// Starts the application for a test: built once, in a folder of its own, by a clock that can be moved.
import { spawn, execFileSync } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync, writeFileSync, existsSync, readFileSync, renameSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)))
const binary = path.join(root, 'bin', 'studio')

export function buildStudio() {
  execFileSync('go', ['build', '-o', binary, './e2e/studio'], { cwd: root, stdio: 'inherit' })
}

// usual is the moment at which most tests begin.
export const usual = '2027-05-04T10:26:00Z'

// tellOnce loads the demo at the usual moment into a folder from which studios
// that begin there are copied, so that its story is told once; the function it
// gives takes the folder away.
export async function tellOnce(port) {
  const told = await startStudio({ port, at: usual })
  await told.end()
  process.env.TIDYKILN_TOLD = told.folder
  return () => rmSync(told.folder, { recursive: true, force: true })
}

// startStudio starts one. In a house it is reached beyond its machine too, by TLS, on an
// address that stands for one of the house's network, and under a name.
export async function startStudio({ port, at, empty = false, own = false, house = false, backups = false }) {
  if (!existsSync(binary)) buildStudio()
  const folder = mkdtempSync(path.join(tmpdir(), 'tidykiln-e2e-'))
  const told = process.env.TIDYKILN_TOLD
  if (told && at === usual && !empty)
    for (const part of ['mariadb', 'pictures']) cpSync(path.join(told, part), path.join(folder, part), { recursive: true })
  const clock = path.join(folder, 'clock')
  const setClock = (time) => {
    writeFileSync(`${clock}.new`, time)
    renameSync(`${clock}.new`, clock) // so that it is never read half written
  }
  setClock(at)
  let running

  async function start() {
    const args = ['-var', folder, '-address', `${house ? '127.0.0.2' : '127.0.0.1'}:${port}`, '-clock', clock, ...(house ? ['-names', 'studio.localhost'] : []), ...(empty ? ['-empty'] : []), ...(own ? ['-own'] : []), ...(backups ? ['-backups'] : [])]
    const child = spawn(binary, args, { stdio: ['ignore', 'pipe', 'inherit'] })
    const exited = new Promise((resolve) => child.once('exit', resolve))
    const database = await new Promise((resolve, reject) => {
      child.stdout.on('data', (text) => {
        const ready = /ready database=(\d+)/.exec(String(text))
        if (ready) resolve(Number(ready[1]))
      })
      exited.then((code) => reject(new Error(`the studio ended with ${code}`)))
    })
    running = { child, exited, database }
  }
  await start()

  // end stops it and leaves its data.
  async function end() {
    running.child.kill('SIGTERM')
    await running.exited
  }

  return {
    folder,
    end,
    url: `http://127.0.0.1:${port}`,
    houseUrl: `https://127.0.0.2:${port}`,
    trustUrl: `http://127.0.0.2:${port + 1}`,
    setClock,
    start,
    // killDatabase ends the database alone. The studio starts it again by
    // itself, which fails until the function this returns is called.
    killDatabase() {
      const home = path.join(folder, 'mariadb')
      const state = JSON.parse(readFileSync(path.join(home, 'server.json'), 'utf8'))
      renameSync(path.join(home, 'data'), path.join(home, 'data-away'))
      process.kill(state.pid, 'SIGKILL')
      return () => {
        rmSync(path.join(home, 'data'), { recursive: true, force: true })
        renameSync(path.join(home, 'data-away'), path.join(home, 'data'))
      }
    },
    // kill ends server and database at once, as a power cut would.
    async kill() {
      running.child.kill('SIGKILL')
      await running.exited
      process.kill(running.database, 'SIGKILL')
    },
    async stop() {
      await end()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
