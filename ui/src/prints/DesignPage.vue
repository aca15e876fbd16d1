<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../api/client'
import { inks, percent } from '../artwork/said'
import ClashNote from '../shared/ClashNote.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { figure } from '../shared/habit'
import PageHead from '../shared/PageHead.vue'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TickBox from '../shared/TickBox.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import CleanUpPanel from './CleanUpPanel.vue'
import LeafStage from './LeafStage.vue'
import LetteringPanel from './LetteringPanel.vue'
import { turned } from './placing'
import PlacingPanel from './PlacingPanel.vue'
import PrintLeaf from './PrintLeaf.vue'
import { useDesign } from './useDesign'

// How a product's print looks: what the printer prints, beside what people see.
const route = useRoute()
const id = computed(() => Number(route.params.id))
const d = useDesign(() => id.value)
const { page, form, error, dirty, busy, trouble, clashes, past, future } = d
const design = computed(() => form.value?.design)

const onOneLine = (text: string) => text.split('\n').join(' / ')
const words = computed(() => page.value?.words ?? [])
const picked = ref(0)
watch(
  () => words.value.length,
  (n) => (picked.value = Math.min(picked.value, Math.max(0, n - 1))),
)
const shown = computed(() => words.value[picked.value]?.path ?? '')
const troubled = computed(() => words.value.filter((w) => !w.fits || w.missing.length))
const fitting = computed(() => {
  const all = words.value
  if (!all.length || !all[0]!.wantId) return ''
  const shrunk = all.filter((w) => w.shrunk && w.fits)
  const least = Math.min(...shrunk.map((w) => w.heightMm))
  return [
    `${all.length - troubled.value.length} fit`,
    ...(shrunk.length ? [`${shrunk.length} shrunk, the smallest to ${figure(least)} mm`] : []),
    ...(troubled.value.length ? [`${troubled.value.length} to decide`] : []),
  ].join(' · ')
})

const bands: Record<NonNullable<Schemas['DesignPage']['sharpness']>, string> = {
  good: 'good for crisp',
  acceptable: 'acceptable for weathered',
  coarse: 'coarse: it will look soft',
  refused: 'too coarse to print',
}
const ink = computed(() => {
  const printed = page.value?.printed
  if (!printed || !page.value?.artwork) return []
  return inks({ ...page.value.artwork, pixels: { ...page.value.artwork.pixels, ink: printed.ink, grey: printed.grey } })
})

const set = (what: string) => (to: Schemas['Design']) => d.change(what, () => to)
const place = (what: string, placing: Schemas['Placing']) => d.change(what, (was) => ({ ...was, placing }))
function turnBy(by: number) {
  place('turn', turned(design.value!.placing, by))
}

function keys(e: KeyboardEvent) {
  if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z') return
  if ((e.target as HTMLElement).closest('input, textarea')) return
  e.preventDefault()
  if (e.shiftKey) d.redo()
  else d.undo()
}
onMounted(() => window.addEventListener('keydown', keys))
onUnmounted(() => window.removeEventListener('keydown', keys))
const names = { design: 'how it lies', ownPictures: 'whose picture it takes' }
</script>

<template>
  <EmptyNote v-if="error && !page">This product is not made here.</EmptyNote>
  <WaitingRows v-else-if="!page || !design || !form" />
  <div v-else>
    <PageHead :name="page.product">
      <template #said>
        <p class="quiet">
          {{
            page.artwork
              ? page.artwork.title
              : page.ownPictures
                ? 'each piece has its customer’s picture'
                : 'no picture yet'
          }}
          · {{ page.describe }} · print {{ figure(page.print.widthMm, 0) }} × {{ figure(page.print.heightMm, 0) }} mm,
          {{ figure(page.coversCm2) }} of {{ figure(page.faceCm2) }} cm²
        </p>
      </template>
      <template #acts>
        <RouterLink :to="`/products/${id}`">Its recipe</RouterLink>
        <RouterLink to="/prints/sheets">Sheets</RouterLink>
        <button class="side" type="button" :disabled="!past.length" @click="d.undo()">Undo</button>
        <button class="side" type="button" :disabled="!future.length" @click="d.redo()">Again</button>
        <button class="act" type="button" :disabled="!dirty || busy" @click="d.save()">Save</button>
      </template>
    </PageHead>
    <SaveTrouble :trouble="trouble" />
    <ClashNote
      :clashes="clashes"
      :names="names"
      :show="() => 'another one'"
      @mine="d.keepMine"
      @theirs="d.takeTheirs"
    />
    <div class="work">
      <div class="left">
        <div class="fold">
          <figure>
            <figcaption>
              <b>What the printer prints</b>
              <span>{{ page.why }}</span>
            </figcaption>
            <div class="leaf"><PrintLeaf :page="page" :design="design" :words="shown" printed /></div>
          </figure>
          <span class="crease" aria-hidden="true" />
          <figure class="seen">
            <figcaption>
              <b>What people see</b>
              <span>{{ page.seen }}{{ page.through ? ', looked at through the blank' : '' }}</span>
            </figcaption>
            <div class="leaf">
              <LeafStage :page="page" :design="design" :words="shown" @place="place" />
            </div>
          </figure>
        </div>
        <p class="tools">
          <button class="side" type="button" @click="place('fit', { fit: 'fill' })">Fill</button>
          <button class="side" type="button" @click="place('fit', { fit: 'whole' })">Fit</button>
          <button class="side" type="button" @click="turnBy(-90)">Turn left</button>
          <button class="side" type="button" @click="turnBy(90)">Turn right</button>
          <button class="side" type="button" @click="place('middle', { ...design.placing, xMm: 0, yMm: 0 })">
            To the middle
          </button>
          <span class="quiet">Drag it, pinch or scroll to zoom.</span>
        </p>
        <section v-if="words.length" class="words">
          <h2>
            {{
              words[0]!.wantId ? `${words.length} ${words.length === 1 ? 'name' : 'names'} wanted` : 'How words look'
            }}
            <small>{{ fitting }}</small>
          </h2>
          <p v-if="troubled.length" class="note straw">
            <template v-for="(w, i) in troubled" :key="i">
              “{{ onOneLine(w.text) }}”:
              {{
                w.missing.length
                  ? `no typeface here has ${w.missing.join(' ')}`
                  : `too long even at ${figure(w.heightMm)} mm`
              }}.{{ ' ' }}
            </template>
            Shorten them on the order, let them become smaller, or choose another typeface.
          </p>
          <div class="names">
            <button
              v-for="(w, i) in words"
              :key="w.wantId || i"
              type="button"
              class="name"
              :class="{ odd: !w.fits || w.missing.length }"
              :aria-pressed="i === picked"
              @click="picked = i"
            >
              {{ onOneLine(w.text) || 'nothing' }}<small v-if="w.shrunk && w.fits"> {{ figure(w.heightMm) }} mm</small>
            </button>
          </div>
        </section>
      </div>
      <div class="right">
        <dl v-if="page.artwork" class="facts">
          <dt>Sharpness</dt>
          <dd :class="{ bad: page.sharpness === 'refused', odd: page.sharpness === 'coarse' }">
            {{ figure(page.ppi) }} pixels an inch
            <small>{{ bands[page.sharpness ?? 'good'] }}; sharp up to {{ figure(page.goodToMm) }} mm across</small>
          </dd>
          <template v-if="page.printed">
            <dt>Ink</dt>
            <dd>
              {{ percent(page.printed.ink.alone) }} of the print
              <small>{{ ink.map((i) => `${i.name} ${i.share}`).join(' · ') }}</small>
            </dd>
            <dt>White</dt>
            <dd :class="{ odd: !page.opaque && page.printed.white > 0.15 }">
              {{ percent(page.printed.white) }}
              <small v-if="!page.opaque && page.printed.white > 0.15">will show the {{ page.surfaceName }}</small>
            </dd>
          </template>
          <template v-if="page.stands">
            <dt>Round</dt>
            <dd>
              {{ figure(page.roundMm) }} mm
              <small
                >at its widest; the print{{ design.seamMm ? ' with its seam' : '' }} {{ figure(page.print.widthMm) }} mm
                wide laid flat</small
              >
            </dd>
          </template>
          <template v-if="page.rim">
            <dt>Rim</dt>
            <dd :class="{ bad: page.rim.gapMm < page.rim.leastMm }">
              {{ figure(page.rim.gapMm) }} mm above the print
              <small>lips touch the upper {{ figure(page.rim.leastMm) }} mm: the usable face is dashed</small>
            </dd>
          </template>
          <template v-if="page.tape">
            <dt>Tape</dt>
            <dd>
              {{ page.tape.strips }} {{ page.tape.strips === 1 ? 'strip' : 'strips' }} of
              {{ figure(page.tape.eachMm, 0) }} mm
              <small>{{ figure(page.tape.wideMm, 0) }} mm wide, each 2 mm over the one before</small>
            </dd>
          </template>
          <dt v-if="!page.covered">Paper</dt>
          <dd v-if="!page.covered" class="odd">shows beside the picture</dd>
        </dl>
        <EmptyNote v-else-if="!page.ownPictures">
          Give it a picture on its page, under “what it is made of”, or let each piece have its customer’s.
        </EmptyNote>
        <TickBox v-model="form.ownPictures">Each piece has its customer’s own picture</TickBox>
        <PlacingPanel
          :model-value="design"
          :stands="page.stands"
          :face="{ width: page.widthMm, height: page.heightMm }"
          :fault="d.faultOf"
          @update:model-value="set('placing')($event)"
        />
        <CleanUpPanel
          :model-value="design.cleanUp"
          @update:model-value="d.change('clean', (was) => ({ ...was, cleanUp: $event }))"
        />
        <LetteringPanel
          :model-value="design"
          :lettered="page.lettered"
          :fault="d.faultOf"
          @update:model-value="set('lettering')($event)"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 20px 28px;
  align-items: start;
}
/* What is changed is seen while it is changed. */
.left {
  position: sticky;
  top: 10px;
  max-height: calc(100vh - 20px);
  overflow-y: auto;
}
.fold {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
  border: 1px solid var(--line);
  background: var(--sheet);
}
figure {
  display: grid;
  grid-template-rows: auto 1fr;
  margin: 0;
  min-width: 0;
}
figcaption {
  display: grid;
  padding: 12px 16px 0;
  min-height: 84px;
  align-content: start;
}
figcaption span {
  color: var(--soft);
  font-size: 14px;
}
.leaf {
  height: min(44vh, 380px);
  padding: 4px 8px 10px;
}
.crease {
  border-left: 2px dashed var(--clay);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
  margin: 10px 0 18px;
}
.right {
  display: grid;
  gap: 18px;
}
.facts {
  display: grid;
  grid-template-columns: 88px 1fr;
  gap: 6px 10px;
}
.facts dt {
  color: var(--soft);
}
.facts dd {
  margin: 0;
  font-weight: 600;
}
.facts small {
  display: block;
  font-weight: 400;
  color: var(--soft);
}
.odd,
.odd small {
  color: var(--straw);
}
.bad,
.bad small {
  color: var(--brick);
}
.words h2 small {
  margin-left: 10px;
  font: 400 14px var(--text);
  color: var(--soft);
}
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.name {
  padding: 4px 12px;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--paper);
  color: var(--ink);
}
.name.odd {
  border-color: var(--straw);
  color: var(--straw);
}
.name[aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: 0 0 0 1px var(--ink);
  background: var(--sheet);
  font-weight: 600;
}
@media (max-width: 980px) {
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
  .left,
  .fold {
    display: contents;
  }
  .crease {
    display: none;
  }
  figure {
    border: 1px solid var(--line);
    background: var(--sheet);
  }
  figure.seen {
    position: sticky;
    top: 0;
    z-index: 2;
  }
  .leaf {
    height: min(26vh, 300px);
  }
  /* nothing that has the focus is under it */
  .right :deep(:is(input, textarea, button)) {
    scroll-margin-top: calc(min(26vh, 300px) + 100px);
  }
  figcaption {
    min-height: 0;
  }
}
</style>
