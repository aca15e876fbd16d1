import type { Day } from './queries'

// What matters about some days of the plan, in a sentence, with the promises that they break.
export function promisesOf(week: string, days: Day[]) {
  const dues = days.flatMap((d) => d.dues)
  const broken = dues.filter((d) => ['late', 'unplanned'].includes(d.readiness.state))
  return { said: `${week} ${saidOf(dues.length, broken.length)}`, broken }
}

function saidOf(dues: number, broken: number): string {
  if (dues === 0) return 'has nothing due'
  if (broken === 0) return dues === 1 ? 'holds its one promise' : 'holds every promise'
  if (broken === dues) return dues === 1 ? 'cannot hold its one promise' : 'can hold none of its promises'
  return `holds every promise but ${broken === 1 ? 'one' : broken}`
}
