<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { filesOf, matched } from '../artwork/folder'
import { kinds, putAndWait } from '../artwork/putIn'
import { fileAt } from '../artwork/said'
import SentList from '../artwork/SentList.vue'
import { useAct } from '../shared/act'
import FilesButton from '../shared/FilesButton.vue'
import { say } from '../shared/toast'

// The customer's picture of each piece. A folder dropped here is shared out: by the
// names that its files bear, and in order where they bear none.
const props = defineProps<{ order: Schemas['OrderPage']; line: Schemas['OrderLine']; open: boolean }>()
const { tell, busy } = useAct()
const over = ref(false)
const missing = computed(() => props.line.pieces.filter((p) => !p.artwork).length)
const isPicture = (f: File) => /^image\//.test(f.type) || /\.(png|jpe?g|webp|heic|heif)$/i.test(f.name)

const waiting: File[] = []
let gathering: ReturnType<typeof setTimeout> | undefined
// A chooser hands its files on one by one; they are shared out together.
function gather(file: File) {
  waiting.push(file)
  clearTimeout(gathering)
  gathering = setTimeout(() => void take(waiting.splice(0)), 50)
}
async function drop(event: DragEvent) {
  over.value = false
  if (event.dataTransfer) await take(await filesOf(event.dataTransfer))
}
async function take(files: File[]) {
  const sent = await putAndWait(files.filter(isPicture))
  const come = sent.flatMap((s) => (s.id ? [{ name: s.name, id: s.id }] : []))
  const pieces = props.line.pieces.map((p) => ({ ...p, taken: !!p.artwork }))
  const given = matched(pieces, come)
  if (given.length) await set(given.map(({ piece, id }) => ({ wantId: piece.wantId, artworkId: id })))
  const spare = come.length - given.length
  if (spare) say({ text: `${spare} more ${spare === 1 ? 'picture' : 'pictures'} than pieces: they are under Prints.` })
}
async function set(pictures: Schemas['WantPicture'][]) {
  const body = { pictures, version: props.order.version }
  await tell(() => answerOf(api.PUT('/api/orders/{id}/pictures', { params: { path: { id: props.order.id } }, body })))
}
const called = (p: Schemas['OrderPiece'], i: number) => p.lettering || `piece ${i + 1}`
</script>

<template>
  <div
    class="pictures"
    :class="{ over }"
    @dragover="open && ($event.preventDefault(), (over = true))"
    @dragleave.self="over = false"
    @drop.prevent="open && drop($event)"
  >
    <p :class="missing ? 'missing' : 'quiet'">
      {{
        missing
          ? `${missing} of ${line.pieces.length} pictures have not come: ask for ${missing === 1 ? 'it' : 'them'}.`
          : 'Every piece has its picture.'
      }}
    </p>
    <ul>
      <li v-for="(p, i) in line.pieces" :key="p.wantId">
        <img v-if="p.artwork?.thumb" :src="fileAt(p.artwork.thumb)" :alt="`The picture of ${called(p, i)}`" />
        <span v-else class="none" :title="p.artwork?.refusal">{{
          p.artwork ? (p.artwork.state === 'refused' ? 'refused' : 'being read') : 'none yet'
        }}</span>
        <span class="of">{{ called(p, i) }}</span>
        <button
          v-if="p.artwork && open"
          class="word"
          type="button"
          :disabled="busy"
          :aria-label="`Take the picture of ${called(p, i)} away`"
          @click="set([{ wantId: p.wantId }])"
        >
          take away
        </button>
      </li>
    </ul>
    <SentList />
    <p v-if="open" class="put">
      <FilesButton label="Put their pictures in" :accept="kinds" quiet @file="gather" />
      <span class="quiet">or drop a folder here</span>
    </p>
  </div>
</template>

<style scoped>
.pictures {
  display: grid;
  gap: 8px;
}
.over {
  outline: 2px dashed var(--glaze);
  outline-offset: 4px;
}
.missing {
  color: var(--straw);
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(84px, 1fr));
  gap: 10px;
}
li {
  display: grid;
  gap: 2px;
  justify-items: start;
  align-content: start;
  font-size: 14px;
}
img,
.none {
  width: 76px;
  height: 76px;
  object-fit: cover;
  border: 1px solid var(--line);
}
.none {
  display: grid;
  place-items: center;
  border-style: dashed;
  border-color: var(--edge);
  color: var(--soft);
  font-size: 13px;
}
.of {
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.put {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
}
</style>
