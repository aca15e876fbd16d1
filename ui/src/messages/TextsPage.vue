<script setup lang="ts">
import { useAnswer } from '../api/answers'
import FoldBox from '../shared/FoldBox.vue'
import PageHead from '../shared/PageHead.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import TextForm from './TextForm.vue'

// The studio's own texts, and what is filled into them.
const { data: texts } = useAnswer('/api/message-templates')
</script>

<template>
  <PageHead name="Texts">
    <template #acts><RouterLink to="/workshop">The workshop</RouterLink></template>
  </PageHead>
  <WaitingRows v-if="!texts" />
  <div v-else class="texts">
    <p class="quiet">
      These are the words of messages to customers. A word in braces is filled in from the order; a line with one of
      which nothing is known is left out. Nothing is sent from here.
    </p>
    <FoldBox v-for="t in texts.templates" :key="t.kind" :name="t.called"><TextForm :text="t" /></FoldBox>
    <FoldBox name="What can be filled in">
      <dl>
        <template v-for="w in texts.words" :key="w.name">
          <dt>{{ '{' + w.name + '}' }}</dt>
          <dd>{{ w.is }}</dd>
        </template>
      </dl>
    </FoldBox>
  </div>
</template>

<style scoped>
.texts {
  max-width: 640px;
}
dl {
  margin: 0;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 4px 16px;
}
</style>
