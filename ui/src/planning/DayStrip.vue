<script setup lang="ts">
import { computed, ref } from 'vue'
import { useElementWidth } from '../shared/useElementSize'
import { moveAmong } from '../shared/keys'
import type { Day, Hands, Resting } from './queries'
import { personLanes } from './strip'
import type { Scale } from './scale'
import HandsLane from './HandsLane.vue'
import RackLine from './RackLine.vue'
import { keyOfBar, useDragging, type Moved } from './dragging'

// A day: a lane of hands for each person, the rack beneath. The day ribbon is one
// of these, the plan a column of them.
const props = defineProps<{
  day: Day
  hands: Hands[]
  rests: Resting[]
  scale: Scale
  rackPlaces: number
  now: number
  label: string
  axis?: 'full' | 'hours'
  // awaited says that what is in the day comes in a moment; its room is kept.
  awaited?: boolean
  // own are the lots that are picked; null while nothing is.
  own: Set<number> | null
  // movable says that planned bars can be drawn to another time.
  movable?: boolean
}>()
const emit = defineEmits<{
  pick: [lotId: number]
  work: [key: number]
  ready: [minute: number]
  move: [moved: Moved]
}>()

const strip = ref<HTMLElement | null>(null)
const width = useElementWidth(strip)
// Drawn once, when it is known how much room there is for names.
const drawn = computed(() => width.value > 0 && !props.awaited)

const start = computed(() => Date.parse(props.day.start))
const end = computed(() => Date.parse(props.day.end))
const place = (item: { start: string; end: string }) => {
  const left = props.scale.at(Date.parse(item.start))
  return { left: `${left * 100}%`, width: `${Math.max(0, props.scale.at(Date.parse(item.end)) - left) * 100}%` }
}
const pixels = (item: { start: string; end: string }) =>
  (props.scale.at(Date.parse(item.end)) - props.scale.at(Date.parse(item.start))) * width.value

const tall = 24
const rackTall = 28
const people = computed(() => {
  const lanes = personLanes(props.day, props.hands, (h) => props.own?.has(h.lotId) ?? false)
  return lanes.map((lane, i) => ({ ...lane, top: i * tall }))
})
const dragging = useDragging(
  {
    lanes: () => (props.movable ? people.value : []),
    scale: () => props.scale,
    width: () => width.value,
    tall,
    box: () => strip.value!.getBoundingClientRect(),
  },
  (moved) => emit('move', moved),
)
const drawnKey = computed(() => (dragging.drawn.value ? keyOfBar(dragging.drawn.value.group) : null))
const first = computed(() => people.value.find((p) => p.groups.some((g) => g.item.state !== 'tentative')))
const handsTall = computed(() => Math.max(1, people.value.length) * tall)
// The name stands before the hours begin, whole where there is room.
const nameRoom = computed(() =>
  props.day.open[0] ? pixels({ start: props.day.start, end: props.day.open[0].start }) : 0,
)
const shortName = (name: string) => (nameRoom.value >= 60 || nameRoom.value === 0 ? name : name.slice(0, 1))

const needle = computed(() =>
  props.now >= start.value && props.now < end.value ? `${props.scale.at(props.now) * 100}%` : null,
)

// What is under the pointer or has the focus is named, also where its bar has no room for it.
const told = ref<{ text: string; left: number; top: number; end: boolean } | null>(null)
function tell(event: Event) {
  const on = (event.target as HTMLElement).closest<HTMLElement>('[data-told]')
  if (!on || !strip.value) return (told.value = null)
  const [box, at] = [strip.value.getBoundingClientRect(), on.getBoundingClientRect()]
  const left = Math.min(Math.max(0, at.left - box.left), box.width)
  const late = left > box.width / 2
  told.value = {
    text: on.dataset.told!,
    left: late ? box.width - left - at.width : left,
    top: at.bottom - box.top + 2,
    end: late,
  }
}
</script>

<template>
  <div
    class="wrap"
    @pointerover="tell"
    @focusin="tell"
    @click="told = null"
    @pointerleave="told = null"
    @focusout="told = null"
  >
    <div v-if="axis" class="axis" aria-hidden="true">
      <span v-for="tick in scale.ticks" :key="tick.share" :style="{ left: `${tick.share * 100}%` }">{{
        axis === 'full' ? tick.label : tick.label.slice(0, 2)
      }}</span>
    </div>
    <div
      ref="strip"
      class="strip"
      :class="{ drawing: drawnKey }"
      role="group"
      :aria-label="label"
      :style="{ height: `${handsTall + rackTall + 2}px` }"
      @keydown="moveAmong($event, strip)"
      @pointerdown="dragging.down"
      @pointermove="dragging.move"
      @pointerup="dragging.up"
      @pointercancel="dragging.cancel"
      @click.capture="dragging.click"
    >
      <template v-if="drawn">
        <span v-for="(o, i) in day.open" :key="`o${i}`" class="open" :style="place(o)" />
        <template v-for="lane in people" :key="lane.personId">
          <span
            v-for="o in lane.open"
            :key="o.start"
            class="own-hours"
            :style="{ ...place(o), top: `${lane.top}px`, height: `${tall}px` }"
          />
        </template>
        <span
          v-for="tick in scale.ticks"
          :key="`t${tick.share}`"
          class="tick"
          :style="{ left: `${tick.share * 100}%` }"
        />
        <template v-for="lane in people" :key="`p${lane.personId}`">
          <span class="who" :style="{ top: `${lane.top}px` }" aria-hidden="true">{{ shortName(lane.name) }}</span>
          <HandsLane
            :style="{ top: `${lane.top}px`, height: `${tall}px` }"
            :lane="lane"
            :scale="scale"
            :width="width"
            :height="tall"
            :own="own !== null"
            :entry="lane === first"
            :drawn="
              drawnKey ? { key: drawnKey, dx: dragging.drawn.value!.dx, dy: dragging.drawn.value!.dy } : undefined
            "
            @pick="emit('pick', $event)"
            @work="emit('work', $event)"
          />
        </template>
        <RackLine
          class="rests"
          :style="{ top: `${handsTall + 1}px` }"
          :day="day"
          :rests="rests"
          :scale="scale"
          :width="width"
          :height="rackTall"
          :rack-places="rackPlaces"
          :now="now"
          :own="own"
          @ready="emit('ready', $event)"
          @pick="emit('pick', $event)"
        />
        <span v-if="needle" class="needle" :style="{ left: needle }" />
      </template>
    </div>
    <p
      v-if="told"
      class="told"
      aria-hidden="true"
      :style="{ [told.end ? 'right' : 'left']: `${told.left}px`, top: `${told.top + (axis ? 17 : 0)}px` }"
    >
      {{ told.text }}
    </p>
  </div>
</template>

<style scoped>
.wrap {
  position: relative;
  min-width: 0;
}
.axis {
  position: relative;
  height: 17px;
  font-size: 13px;
  line-height: 16px;
  color: var(--soft);
}
.axis span {
  position: absolute;
  padding-left: 2px;
}
.strip {
  position: relative;
  background: var(--closed);
  overflow: hidden;
}
/* What is drawn along is seen on its way to another day. */
.strip.drawing {
  z-index: 3;
  overflow: visible;
}
.open {
  position: absolute;
  inset-block: 0;
  background: #f8f4ec;
}
.own-hours {
  position: absolute;
  background: var(--sheet);
}
.tick {
  position: absolute;
  inset-block: 0;
  width: 1px;
  background: var(--line);
}
.who {
  position: absolute;
  left: 1px;
  font-size: 13px;
  font-weight: 650;
  color: var(--soft);
  pointer-events: none;
  z-index: 1;
  padding: 0 3px;
  background: var(--closed);
  line-height: 22px;
  margin-top: 1px;
}
.rests {
  position: absolute;
  inset-inline: 0;
}
.needle {
  position: absolute;
  inset-block: 0;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
  z-index: 1;
  pointer-events: none;
}
.told {
  position: absolute;
  z-index: 5;
  max-width: min(420px, 90%);
  padding: 3px 8px;
  background: var(--ink);
  color: #fff;
  font-size: 13px;
  line-height: 1.35;
  pointer-events: none;
}
@media (forced-colors: active) {
  .needle {
    forced-color-adjust: none;
  }
}
</style>
