<script setup lang="ts">
// A drawing of each sign that something went wrong, on a tile with a boat.
defineProps<{ sign: string }>()
</script>

<template>
  <svg viewBox="0 0 96 96" aria-hidden="true">
    <template v-if="sign === 'sagging'">
      <path d="M30 14h36v30q6 10 0 16v24H30V58q-9-8 0-18z" class="wax" />
      <path d="M48 14v-8" class="line" />
      <path d="M62 42q10 8 3 20" class="fault" />
      <path d="M38 52l9-14 9 14z" class="ink" />
    </template>
    <template v-else-if="sign === 'bowed'">
      <path d="M10 62q38-26 76 0l-3 8q-35-24-70 0z" class="wood" />
      <path d="M8 76h80" class="line" />
      <path d="M48 58v14M44 68l4 5 4-5" class="fault" />
    </template>
    <template v-else>
      <rect x="10" y="10" width="76" height="76" rx="4" :class="sign === 'faint' ? 'dark' : 'wood'" />
      <g v-if="sign === 'backwards'">
        <text x="-48" y="58" transform="scale(-1 1)" text-anchor="middle" class="letters">TERN</text>
      </g>
      <g v-else :opacity="sign === 'faint' ? 0.28 : 1">
        <path d="M22 60h50l-8 12H30z" class="ink" />
        <path d="M46 22v36" class="line" />
        <path d="M50 24l18 28H50z" class="sail" />
        <path d="M42 30v22H28z" class="ink soft" />
      </g>
      <g v-if="sign === 'cloudy'">
        <rect x="16" y="16" width="64" height="64" fill="#fffdf8" fill-opacity="0.62" />
        <path d="M22 30h14M40 26h20M26 44h26M56 40h16M20 58h18M46 62h26M30 72h24" class="fibre" />
      </g>
      <path v-else-if="sign === 'white-patch'" d="M36 34q14-10 26 2t2 24q-14 10-26 0t-2-26z" class="white" />
      <g v-else-if="sign === 'lifted'">
        <path d="M52 34l8-4 8 6-2 10-10 2-6-6zM28 62l8-2 4 6-6 5-7-3z" class="bare" />
      </g>
      <rect v-else-if="sign === 'ring'" x="17" y="17" width="62" height="62" rx="14" class="ring" />
      <g v-else-if="sign === 'bubble'">
        <circle cx="60" cy="42" r="9" class="blister" />
        <path d="M18 72q16-16 30-8t30-12" class="fault" />
      </g>
      <g v-else-if="sign === 'colours-run'">
        <path d="M34 72q-2 10 0 14M50 72q3 9 0 13M62 70q-1 12 2 16" class="run" />
      </g>
      <g v-else-if="sign === 'peeling'">
        <path d="M86 56v30H56z" fill="#f5f1e8" />
        <path d="M86 56q-22 2-30 30 4-18 30-30z" class="curl" />
      </g>
      <g v-else-if="sign === 'globs'">
        <circle cx="18" cy="86" r="6" class="glob" />
        <circle cx="36" cy="88" r="4" class="glob" />
        <circle cx="84" cy="66" r="5" class="glob" />
        <circle cx="86" cy="80" r="7" class="glob" />
      </g>
      <g v-else-if="sign === 'cloudy-coat'">
        <rect x="10" y="10" width="76" height="76" rx="4" fill="#fffdf8" fill-opacity="0.55" />
        <path d="M10 30q20-8 38 0t38-2M10 52q20 8 38 0t38 4" class="sweep" />
      </g>
      <rect
        v-else-if="sign === 'milky'"
        x="20"
        y="18"
        width="56"
        height="60"
        rx="10"
        fill="#fffdf8"
        fill-opacity="0.7"
      />
      <path
        v-else-if="sign === 'cracked'"
        d="M20 22l14 12-4 14 16 8 2 14 14 8M34 34l18-6M46 56l18-8 10 8"
        class="crack"
      />
      <g v-else-if="sign === 'stain-dark'">
        <path d="M10 10h76v76H10zM24 22v52h48V22z" fill="#3f2a14" fill-opacity="0.72" fill-rule="evenodd" />
      </g>
      <g v-else-if="sign === 'rough'">
        <circle
          v-for="[x, y] in [
            [24, 28],
            [36, 20],
            [58, 26],
            [72, 34],
            [30, 46],
            [50, 44],
            [66, 54],
            [26, 74],
            [44, 78],
            [62, 74],
            [76, 70],
            [20, 60],
          ]"
          :key="`${x}-${y}`"
          :cx="x"
          :cy="y"
          r="2.4"
          class="grit"
        />
      </g>
    </template>
  </svg>
</template>

<style scoped>
svg {
  width: 96px;
  height: 96px;
}
.wood {
  fill: #ead0a4;
  stroke: #8a6a40;
  stroke-width: 2;
}
.dark {
  fill: #4a3a2a;
  stroke: #2a2016;
  stroke-width: 2;
}
.wax {
  fill: #f6edd6;
  stroke: #c2ac7c;
  stroke-width: 2;
}
.ink {
  fill: #2a4a63;
}
.soft {
  fill: #6b8aa0;
}
.sail {
  fill: #a9482b;
}
.line {
  fill: none;
  stroke: #2a2723;
  stroke-width: 2;
}
.fault,
.crack {
  fill: none;
  stroke: #8e2323;
  stroke-width: 2.5;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.crack {
  stroke: #fffdf8;
}
.fibre,
.sweep {
  fill: none;
  stroke: #b9b2a4;
  stroke-width: 1.5;
}
.sweep {
  stroke: #fff;
  stroke-width: 4;
}
.white {
  fill: #fffdf8;
  fill-opacity: 0.85;
}
.bare {
  fill: #ead0a4;
  stroke: #8e2323;
  stroke-width: 1.5;
  stroke-dasharray: 3 2;
}
.ring {
  fill: none;
  stroke: #fffdf8;
  stroke-width: 6;
  stroke-opacity: 0.85;
}
.blister {
  fill: #fffdf8;
  fill-opacity: 0.55;
  stroke: #8e2323;
  stroke-width: 2;
}
.run {
  fill: none;
  stroke: #a9482b;
  stroke-width: 4;
  stroke-linecap: round;
  stroke-opacity: 0.8;
}
.curl {
  fill: #fffdf8;
  stroke: #857c6c;
}
.glob {
  fill: #fffdf8;
  stroke: #857c6c;
}
.grit {
  fill: #6b4f2a;
  stroke: #fffdf8;
  stroke-width: 0.8;
}
.letters {
  font: 700 26px var(--heading);
  fill: #2a4a63;
}
</style>
