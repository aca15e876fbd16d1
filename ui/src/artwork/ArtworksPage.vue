<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'
import { useAnswer } from '../api/answers'
import FilesButton from '../shared/FilesButton.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import TextField from '../shared/TextField.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import { useTray } from '../shared/tray'
import ArtworkCard from './ArtworkCard.vue'
import { kinds, usePutIn } from './putIn'
import SentList from './SentList.vue'

// The pictures there are. They come by file, dropped anywhere on the page, pasted, or
// from the phone's camera.
const { data: artworks } = useAnswer('/api/artworks')
const { put } = usePutIn()
const { shown, open } = useTray()
const over = ref(false)
const sought = ref('')
const found = computed(() => {
  const text = sought.value.trim().toLowerCase()
  return artworks.value?.filter((a) => `${a.title} ${a.fileName} ${a.rightsNote}`.toLowerCase().includes(text))
})

function drop(event: DragEvent) {
  over.value = false
  put(event.dataTransfer?.files ?? [])
}
function paste(event: ClipboardEvent) {
  const files = [...(event.clipboardData?.files ?? [])]
  if (files.length) put(files)
}
const carriesFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false
onMounted(() => window.addEventListener('paste', paste))
onUnmounted(() => window.removeEventListener('paste', paste))
</script>

<template>
  <div
    class="prints"
    :class="{ over }"
    @dragover="carriesFiles($event) && ($event.preventDefault(), (over = true))"
    @dragleave.self="over = false"
    @drop.prevent="drop"
  >
    <div class="title">
      <h1>Prints</h1>
      <span>
        <RouterLink to="/prints/sheets">Sheets</RouterLink>
        <FilesButton class="camera" label="Take a photo" accept="image/*" camera quiet @file="put([$event])" />
        <FilesButton label="Put pictures in" :accept="kinds" @file="put([$event])" />
      </span>
    </div>
    <p class="quiet how">
      PNG, JPEG, WebP or HEIC, up to 60 MB each.<span class="desk"> Drop them here or paste them, too.</span>
    </p>
    <SentList />
    <EmptyNote v-if="artworks && artworks.length === 0">
      No picture is here yet. Put one in, and its sharpness, its ink and how much of it is white are measured from its
      pixels.
    </EmptyNote>
    <template v-if="artworks && artworks.length > 0">
      <TextField v-if="artworks.length > 11" v-model="sought" class="seek" label="Find a picture" maxlength="120" />
      <ul class="wall">
        <li v-for="a in found" :key="a.id">
          <ArtworkCard
            :artwork="a"
            :picked="shown?.kind === 'artwork' && shown.id === a.id"
            @open="open('artwork', a.id)"
          />
        </li>
      </ul>
      <p v-if="found?.length === 0" class="quiet">No picture is called that.</p>
    </template>
    <WaitingRows v-if="!artworks" />
  </div>
</template>

<style scoped>
.prints {
  min-height: 60vh;
}
.over {
  outline: 2px dashed var(--glaze);
  outline-offset: 8px;
}
.title {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
}
.title > span {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px 20px;
  align-items: center;
}
.how {
  margin: 2px 0 14px;
}
.seek {
  max-width: 320px;
  margin-bottom: 14px;
}
.wall {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 172px), 1fr));
  gap: 22px 20px;
}
/* a desk has a better way */
@media (hover: hover) and (pointer: fine) {
  .title .camera {
    display: none;
  }
}
@media (max-width: 640px) {
  .desk {
    display: none;
  }
  .wall {
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 18px 14px;
  }
}
</style>
