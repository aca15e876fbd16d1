<script setup lang="ts">
import type { Schemas } from '../api/client'
import { duration } from '../shared/time'

// The recipe to scale: bars of hands and ribbons of rest, the floor marked.
// Widths follow the roots, so that minutes of hands stay visible beside hours of rest.
defineProps<{ steps: Schemas['Step'][] }>()

const hands = (s: Schemas['Step']) => Math.max(4, Math.sqrt(s.setupMinutes + s.minutesPerPiece * 12))
const rest = (minutes: number) => Math.max(5, Math.sqrt(minutes) * 0.9)
const kinds: Record<string, string> = { dry: 'dry', cure: 'cure', soak: 'soak', cool: 'cool' }
const floorAt = (r: Schemas['Rest']) => `${Math.min(100, (r.floor / r.usual) * 100)}%`
const short = (name: string) => name.replace('Clear the paper, ', 'Clear, ').replace(' round', '')
</script>

<template>
  <div class="frame">
    <ol class="strip">
      <template v-for="s in steps" :key="s.id">
        <li class="step" :style="{ flexGrow: hands(s) }">
          <span class="above" />
          <span class="bar" :title="`${s.name}: set-up ${s.setupMinutes} min, then ${s.minutesPerPiece} min a piece`" />
          <span class="below"
            ><b>{{ short(s.name) }}</b
            ><br />{{ s.minutesPerPiece }} min<span class="spoken"> a piece</span></span
          >
        </li>
        <li v-if="s.rest" class="rest" :style="{ flexGrow: rest(s.rest.usual) }">
          <span class="above">{{ duration(s.rest.usual) }}</span>
          <span
            class="ribbon"
            :title="`${kinds[s.rest.kind]}: never under ${duration(s.rest.floor)}, usually ${duration(s.rest.usual)}${s.rest.ceiling ? `, at most ${duration(s.rest.ceiling)}` : ''}`"
          >
            <i class="hatch" :class="{ closing: s.rest.ceiling }" />
            <i v-if="s.rest.floor < s.rest.usual" class="floor" :style="{ left: floorAt(s.rest) }" />
          </span>
          <span class="below quiet"
            >{{ kinds[s.rest.kind] }}<br /><span class="small">≥ {{ duration(s.rest.floor) }}</span></span
          >
        </li>
      </template>
    </ol>
    <p class="quiet">
      Minutes are for each piece; a sitting’s set-up comes on top. Ribbons are usual rests, the mark is the floor that
      is never undercut, a point means the next step must not be late.
    </p>
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  padding: 12px 16px 10px;
  background: var(--sheet);
  border: 1px solid var(--line);
  overflow-x: auto;
}
.strip {
  display: flex;
  gap: 3px;
  min-width: 1080px;
}
.strip li {
  flex-basis: 0;
  min-width: 0;
  display: grid;
  grid-template-rows: 22px 40px auto;
  grid-template-columns: minmax(0, 1fr);
  text-align: center;
  font-size: 13px;
  line-height: 1.3;
}
.step {
  min-width: 54px !important;
}
.rest {
  min-width: 58px !important;
}
.above {
  font-weight: 650;
  color: var(--night);
  white-space: nowrap;
}
.bar {
  background: var(--clay);
}
.ribbon {
  position: relative;
  align-self: center;
}
.ribbon .hatch {
  display: block;
  height: 15px;
}
.ribbon .closing {
  border-radius: 0;
  clip-path: polygon(0 0, 80% 0, 100% 50%, 80% 100%, 0 100%);
}
.floor {
  position: absolute;
  top: -5px;
  width: 2px;
  height: 25px;
  background: var(--ink);
}
.below {
  padding: 5px 1px 0;
}
.small {
  font-size: 13px;
  white-space: nowrap;
}
p {
  margin-top: 8px;
}
</style>
