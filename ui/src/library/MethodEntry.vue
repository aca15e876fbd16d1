<script setup lang="ts">
import { duration } from '../shared/reading'
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import TextField from '../shared/TextField.vue'
import RecipeBars from '../shared/RecipeBars.vue'
import { say } from '../shared/toast'
import { carriers, surfaceWords } from '../shared/words'
import ActRow from '../shared/ActRow.vue'

// A method: its bars at a glance, and when it is opened every step, rest, caution and school.
const props = defineProps<{ method: Schemas['MethodEntry'] }>()
const { act, tell, busy, fault } = useAct()
const shown = ref(false)
const copying = ref(false)
const name = ref('')

const m = computed(() => props.method)
const steps = computed(() => m.value.steps ?? [])
// A step that only some blanks take is left out of the bars when another of its kind stands beside it.
const bars = computed(() => {
  const first = m.value.surfaces?.[0]
  return steps.value
    .filter((s) => !s.when?.surfaces?.length || (first !== undefined && s.when.surfaces.includes(first)))
    .filter((s) => !s.when?.hangs && !s.when?.holdsFlame && !s.when?.drinkware)
    .map((s) => ({
      name: s.name,
      minutes: Math.max(1, s.setupMinutes + 12 * (s.minutesPerPiece + s.minutesPer100cm2)),
      rest: s.rest?.usual ?? 0,
    }))
})
const prints = computed(() => (m.value.prints ?? []).map((p) => `${p.kind} on ${carriers[p.carrier]}`).join(', '))
const mediumOn: Record<string, string> = { surface: 'the surface', print: 'the print', both: 'both' }
const only = (s: Schemas['MethodStep']) => {
  const w = s.when
  if (!w) return ''
  const parts = [
    w.surfaces?.length ? `on ${w.surfaces.map(surfaceWords).join(', ')}` : '',
    w.tones?.length ? `where it is ${w.tones.join(' or ')}` : '',
    w.look ? `for a ${w.look} look` : '',
    w.hangs ? 'when it hangs' : '',
    w.holdsFlame ? 'when a candle burns in it' : '',
    w.drinkware ? 'when people drink from it' : '',
  ].filter(Boolean)
  return parts.join(', ')
}

async function copy() {
  const made = await act(() =>
    answerOf(
      api.POST('/api/methods/{key}/copy', { params: { path: { key: m.value.key } }, body: { name: name.value } }),
    ),
  )
  if (!made) return
  copying.value = false
  name.value = ''
  say({ text: `“${made.name}” is yours now. Take it out as a file to change it, and bring it back in.` })
}
async function archive() {
  const path = { params: { path: { key: m.value.key } } }
  await tell(() => answerOf(api.POST('/api/methods/{key}/archive', path)))
}
</script>

<template>
  <li class="entry">
    <div class="row">
      <div>
        <h2>
          <button class="title" type="button" :aria-expanded="shown" @click="shown = !shown">{{ m.name }}</button>
          <span v-if="!m.builtIn" class="own">yours</span>
        </h2>
        <p>{{ m.about }}</p>
        <p class="quiet">{{ (m.surfaces ?? []).map(surfaceWords).join(' · ') }}</p>
      </div>
      <div class="glance">
        <RecipeBars :bars="bars" />
        <p class="quiet">
          <template v-if="m.floorMinutes !== undefined"
            >never under {{ duration(m.floorMinutes) }} after the lay · </template
          >print {{ m.viewSide === 'paper' ? 'mirrored' : 'as it is'
          }}<template v-if="m.usedBy"> · {{ m.usedBy }} {{ m.usedBy === 1 ? 'product' : 'products' }}</template>
        </p>
      </div>
    </div>
    <div v-if="shown" class="inside">
      <dl>
        <dt>Print</dt>
        <dd>{{ prints }}</dd>
        <template v-if="m.mediumOn?.length">
          <dt>Medium goes on</dt>
          <dd>{{ m.mediumOn.map((o) => mediumOn[o]).join(' or ') }}</dd>
        </template>
        <dt>In the end people see</dt>
        <dd>
          {{
            m.viewSide === 'paper'
              ? 'the side the paper was on: print it mirrored'
              : 'the printed face: print it as it is'
          }}; looking through the blank swaps that
        </dd>
        <template v-if="m.removal">
          <dt>The paper</dt>
          <dd>{{ m.removal }}</dd>
        </template>
      </dl>
      <ol class="steps">
        <li v-for="(s, i) in steps" :key="s.id">
          <h3>
            {{ s.name }} <span v-if="only(s)" class="quiet">only {{ only(s) }}</span>
          </h3>
          <p v-if="s.rest" class="rest">
            then rests to {{ s.rest.kind }}: never under {{ duration(s.rest.floor) }}, usually
            {{ duration(s.rest.usual)
            }}<template v-if="s.rest.ceiling">, at most {{ duration(s.rest.ceiling) }}</template>
          </p>
          <ul>
            <li v-for="c in s.checklist ?? []" :key="c">{{ c }}</li>
          </ul>
          <p v-for="c in m.stepCautions[i] ?? []" :key="c" class="caution">{{ c }}</p>
        </li>
      </ol>
      <template v-if="m.schools.length">
        <h3>Where practitioners differ</h3>
        <dl class="schools">
          <template v-for="s in m.schools" :key="s.key">
            <dt>{{ s.question }}</dt>
            <dd v-for="c in s.choices ?? []" :key="c.key">
              <b>{{ c.name }}</b> {{ c.trades }}
            </dd>
          </template>
        </dl>
      </template>
      <p class="quiet">Follow the label and the safety data sheet. Local codes and licensed practice come first.</p>
      <ActRow>
        <button class="side" type="button" :aria-expanded="copying" @click="copying = !copying">Copy it as mine</button>
        <a class="word" :href="`/api/methods/${m.key}/file`" download>Take it out as a file</a>
        <button v-if="!m.builtIn && m.usedBy === 0" class="word" type="button" :disabled="busy" @click="archive">
          Take it off the shelf
        </button>
      </ActRow>
      <form v-if="copying" novalidate @submit.prevent="copy">
        <TextField v-model="name" label="Its name" :fault="fault('name')" maxlength="120" />
        <button class="act" type="submit" :disabled="busy">Copy</button>
      </form>
    </div>
  </li>
</template>

<style scoped>
.entry {
  padding: 12px 0;
  border-top: 1px solid var(--edge);
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 28px;
}
.title {
  padding: 0;
  border: 0;
  background: none;
  font: inherit;
  text-align: left;
  text-decoration: underline;
  text-underline-offset: 4px;
  text-decoration-color: var(--edge);
  cursor: pointer;
}
.own {
  margin-left: 8px;
  padding: 1px 8px;
  border: 1px solid var(--glaze);
  border-radius: var(--radius);
  font: 600 13px var(--text);
  color: var(--glaze);
}
.glance {
  display: grid;
  gap: 4px;
  align-content: center;
}
.inside {
  display: grid;
  gap: 14px;
  margin: 12px 0 8px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
dl {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 4px 16px;
  margin: 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
.schools {
  display: block;
}
.schools dt {
  margin-top: 8px;
  font-weight: 650;
  color: var(--ink);
}
.steps {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 330px), 1fr));
  gap: 14px 28px;
}
.steps > li {
  padding-left: 12px;
  border-left: 4px solid var(--clay);
}
.steps h3 {
  font-size: 15px;
}
.steps ul {
  list-style: disc;
  padding-left: 18px;
  font-size: 14px;
}
.rest {
  color: var(--night);
  font-size: 14px;
  font-weight: 600;
}
.caution {
  margin-top: 4px;
  color: #6f470c;
  font-size: 14px;
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: end;
}
.word {
  color: inherit;
}
@media (max-width: 800px) {
  .row,
  dl {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
