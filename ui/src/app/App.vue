<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import { shut } from '../api/door'
import { useMe } from '../access/useMe'
import { role, runs, seesBusiness } from '../shared/settings'
import { connection } from '../api/client'
import DayRibbon from '../planning/DayRibbon.vue'
import MovedPromises from '../planning/MovedPromises.vue'
import { useMovedPromises } from '../planning/useMovedPromises'
import RestEnds from '../desk/RestEnds.vue'
import { useFirstSteps } from '../desk/useFirstSteps'
import { useTurn } from '../shared/idle'
import { useKeys } from '../shared/keys'
import { tip } from '../shared/tips'
import { useTray } from '../shared/tray'
import AppTray from './AppTray.vue'
import FindDialog from '../desk/FindDialog.vue'
import RoomLine from '../workshop/RoomLine.vue'
import KeysDialog from './KeysDialog.vue'
import { benchSections, sections as allSections } from './router'
import WhoIsHere from './WhoIsHere.vue'

const { data: time } = useAnswer('/api/demo-clock')
useMe()
const AtTheDoor = defineAsyncComponent(() => import('../access/AtTheDoor.vue'))
const NotYours = defineAsyncComponent(() => import('../access/NotYours.vue'))
const sections = computed(() => (role.value === 'helper' ? benchSections : allSections))
const FirstSteps = defineAsyncComponent(() => import('../desk/FirstSteps.vue'))
const AppTip = defineAsyncComponent(() => import('./AppTip.vue'))
const DemoClock = defineAsyncComponent(() => import('./DemoClock.vue'))
// The page stands still: it is shown once it is known whether a line comes above it.
const { known } = useMovedPromises()
const stepsDone = useFirstSteps()
const { shown, open, close } = useTray()
const route = useRoute()
const router = useRouter()
const finding = ref(false)
const keysShown = ref(false)
const moreShown = ref(false)
// The frame is drawn in four strokes: the top line, the day, the page, the dialogs.
const dayCome = useTurn()
const pageCome = useTurn()
const dialogsCome = useTurn()

const current = computed(
  () => sections.value.find((s) => s.path !== '/' && route.path.startsWith(s.path)) ?? sections.value[0]!,
)
const isHere = (path: string) => (current.value.path === path ? 'page' : undefined)

const newHere = () => {
  if (!runs.value) return
  if (current.value.path === '/products') return router.push('/products/new')
  return open(({ '/plan': 'new-batch', '/stores': 'receipt' } as const)[current.value.path as string] ?? 'new-order')
}
// A key pressed while the change before it is still being saved waits for it.
const stepKey = (name: string) => (event: KeyboardEvent) => {
  const button = document.querySelector<HTMLButtonElement>(`[data-key="${name}"]`)
  if (!button) return
  event.preventDefault()
  if (!button.disabled) return button.click()
  const saved = new MutationObserver(() => {
    if (button.disabled) return
    saved.disconnect()
    button.click()
  })
  saved.observe(button, { attributeFilter: ['disabled'] })
}
useKeys({
  ...Object.fromEntries(
    allSections.map((_, i) => [String(i + 1), () => sections.value[i] && router.push(sections.value[i].path)]),
  ),
  f: (e) => {
    e.preventDefault()
    finding.value = seesBusiness.value
  },
  n: (e) => {
    e.preventDefault()
    newHere()
  },
  h: () => (keysShown.value = true),
  d: stepKey('done'),
  ' ': (e) => {
    const focused = document.activeElement
    if (focused instanceof HTMLButtonElement || focused instanceof HTMLAnchorElement) return
    stepKey('take')(e)
  },
  Escape: () => shown.value && close(),
})
</script>

<template>
  <a class="skip" href="#page">Skip to the page</a>
  <header class="top">
    <RouterLink class="mark" to="/" aria-label="Tidy Kiln, today">
      <img src="/kiln.svg" alt="" width="24" height="24" />
      <span>Tidy Kiln</span>
    </RouterLink>
    <nav class="sections" aria-label="Sections">
      <RouterLink v-for="s in sections" :key="s.path" :to="s.path" :aria-current="isHere(s.path)">{{
        s.name
      }}</RouterLink>
    </nav>
    <button v-if="seesBusiness" class="find" type="button" @click="finding = true">
      Find <kbd aria-hidden="true">F</kbd>
    </button>
    <template v-if="dayCome">
      <DemoClock v-if="time?.demo" class="time" />
      <RoomLine />
      <WhoIsHere />
    </template>
  </header>
  <div role="status">
    <p v-if="connection.lost" class="lost">{{ connection.message }} Trying again; what you typed is kept.</p>
    <p v-else-if="connection.slow" class="lost">
      The answer takes longer than usual. Nothing needs to be sent twice; what you typed is kept.
    </p>
  </div>
  <p v-if="role === 'viewer'" class="looking quiet">You look on: nothing is changed from here.</p>
  <template v-if="dayCome">
    <RestEnds />
    <DayRibbon />
    <MovedPromises />
  </template>
  <FirstSteps v-if="stepsDone && role !== 'helper'" :done="stepsDone" />
  <div class="floor" :class="{ trayed: shown, waiting: !known }">
    <main id="page" tabindex="-1">
      <NotYours v-if="role === 'helper' && !route.meta.bench" />
      <RouterView v-else-if="pageCome" />
    </main>
    <AppTray v-if="shown" :key="`${shown.kind}:${shown.id}`" :kind="shown.kind" :thing="shown.id" />
  </div>
  <nav class="bottom" aria-label="Sections, at hand">
    <RouterLink v-for="s in sections.slice(0, 3)" :key="s.path" :to="s.path" :aria-current="isHere(s.path)">{{
      s.name
    }}</RouterLink>
    <button type="button" :aria-expanded="moreShown" @click="moreShown = !moreShown">More</button>
    <div v-if="moreShown" class="more" @click="moreShown = false">
      <RouterLink v-for="s in sections.slice(3)" :key="s.path" :to="s.path" :aria-current="isHere(s.path)">{{
        s.name
      }}</RouterLink>
      <button v-if="seesBusiness" type="button" @click="finding = true">Find</button>
      <RouterLink v-else to="/workshop/access">This device</RouterLink>
    </div>
  </nav>
  <AtTheDoor v-if="shut || route.path === '/pair'" />
  <AppTip v-if="tip" />
  <!-- in a section, so that a dialog's header is not taken for the page's -->
  <section>
    <template v-if="dialogsCome">
      <FindDialog v-model="finding" />
      <KeysDialog v-model="keysShown" />
    </template>
  </section>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
  z-index: 20;
  padding: 8px 16px;
  background: var(--ink);
  color: #fff;
}
.skip:focus {
  left: 8px;
  top: 4px;
}
.top {
  display: flex;
  align-items: stretch;
  gap: 24px;
  height: 48px;
  padding: 0 20px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.mark {
  display: flex;
  align-items: center;
  gap: 9px;
  font: 650 19px/1 var(--heading);
  color: var(--ink);
  text-decoration: none;
}
.sections {
  display: flex;
  gap: 4px;
  margin-right: auto;
}
.sections a {
  display: flex;
  align-items: center;
  padding: 0 10px;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
  color: var(--soft);
  text-decoration: none;
}
.sections a[aria-current] {
  border-bottom-color: var(--clay);
  color: var(--ink);
  font-weight: 650;
}
.sections a:hover {
  color: var(--ink);
}
.find {
  align-self: center;
  min-height: 32px;
  padding: 0 8px;
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
}
kbd {
  padding: 1px 6px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  font: 600 13px var(--text);
  color: var(--ink);
}
.time {
  align-self: center;
}
.looking {
  padding: 4px 20px;
  border-bottom: 1px solid var(--line);
}
/* over the page: nothing moves under a finger because the network stumbles */
.lost {
  position: fixed;
  z-index: 11;
  pointer-events: none; /* what lies under it can still be pressed */
  bottom: 12px;
  left: 20px;
  max-width: calc(100vw - 40px);
  padding: 8px 16px;
  background: var(--straw-wash);
  color: #6f470c;
  border: 1px solid var(--straw);
  border-radius: var(--radius);
  box-shadow: 0 2px 10px rgb(0 0 0 / 18%);
}
.floor {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
/* not for long, whatever happens to the answer */
.floor.waiting {
  visibility: hidden;
  animation: shown 0s 2s forwards;
}
@keyframes shown {
  to {
    visibility: visible;
  }
}
.floor.trayed {
  grid-template-columns: minmax(0, 1fr) 380px;
}
main {
  padding: 16px 20px 40px;
  outline: none;
}
.bottom {
  display: none;
}
/* Where the system sets the colours, a clear border would be drawn on every section. */
@media (forced-colors: active) {
  .sections a:not([aria-current]),
  .bottom a:not([aria-current]),
  .bottom button {
    border-color: Canvas;
  }
}
@media (max-width: 1000px) {
  .top {
    gap: 12px;
    padding: 0 12px;
  }
  .sections {
    gap: 0;
  }
  .sections a {
    padding: 0 7px;
  }
  .find kbd {
    display: none;
  }
}
@media (max-width: 900px) {
  .floor.trayed {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 640px) {
  .lost {
    top: 52px;
    right: 12px;
    bottom: auto;
    left: 12px;
  }
  .top {
    gap: 12px;
    padding: 0 12px;
  }
  .sections,
  .find {
    display: none;
  }
  .mark {
    margin-right: auto;
  }
  .top:has(.time) .mark span {
    display: none;
  }
  main {
    padding: 12px 12px 96px;
  }
  .bottom {
    position: fixed;
    inset: auto 0 0;
    z-index: 10;
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    height: 56px;
    background: var(--sheet);
    border-top: 1px solid var(--edge);
  }
  .bottom a,
  .bottom button {
    display: flex;
    align-items: center;
    justify-content: center;
    min-height: 48px;
    border: 0;
    border-top: 3px solid transparent;
    background: none;
    color: var(--soft);
    text-decoration: none;
    font-weight: 600;
  }
  .bottom a[aria-current] {
    border-top-color: var(--clay);
    color: var(--ink);
  }
  .more {
    position: fixed;
    inset: auto 0 56px;
    display: grid;
    background: var(--sheet);
    border-top: 1px solid var(--edge);
  }
}
</style>
