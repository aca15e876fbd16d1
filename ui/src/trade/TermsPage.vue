<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import LetterheadForm from '../papers/LetterheadForm.vue'
import { useAct } from '../shared/act'
import ActRow from '../shared/ActRow.vue'
import { choicesOf } from '../shared/choices'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import PageHead from '../shared/PageHead.vue'
import PickField from '../shared/PickField.vue'
import { countIn, plainDecimal } from '../shared/reading'
import SaveTrouble from '../shared/SaveTrouble.vue'
import { role } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import WaitingRows from '../shared/WaitingRows.vue'

// What is asked ahead of an order, and what is kept of it when the order is cancelled.
const { data: terms } = useAnswer('/api/terms')
const { act, busy, trouble, fault } = useAct()
const plain = (decimal: string) => String(Number(decimal))
const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => terms.value,
  ({ depositPercent, keeping, keepingPercent, quoteDays }) => ({
    quoteDays: String(quoteDays),
    depositPercent: plain(depositPercent),
    keeping,
    keepingPercent: plain(keepingPercent),
  }),
)
const names = {
  depositPercent: 'Asked ahead, %',
  keeping: 'Kept of what was paid',
  keepingPercent: 'Share kept, %',
  quoteDays: 'A quote stands, days',
}
const rules: Record<Schemas['Terms']['keeping'], string> = {
  spent: 'what was spent on pieces that serve nobody else',
  share: 'a share of what was paid',
  all: 'all of it',
  nothing: 'nothing',
}
async function save() {
  const f = form.value!
  const body = {
    ...f,
    depositPercent: plainDecimal(f.depositPercent),
    keepingPercent: plainDecimal(f.keepingPercent),
    quoteDays: countIn(f.quoteDays),
    version: version.value,
  }
  await act(() => answerOf(api.PUT('/api/terms', { body })))
  if (!trouble.value) say({ text: 'The terms are saved.' })
}
</script>

<template>
  <PageHead name="Terms">
    <template #acts><RouterLink to="/workshop">The workshop</RouterLink></template>
  </PageHead>
  <WaitingRows v-if="!form" :rows="3" />
  <form v-else class="terms" novalidate @submit.prevent="save">
    <TextField
      v-model="form.depositPercent"
      :label="names.depositPercent"
      hint="of what an order costs; 0 asks for nothing ahead"
      :fault="fault('depositPercent')"
      maxlength="7"
    />
    <PickField
      v-model="form.keeping"
      :label="`${names.keeping}, when an order is cancelled`"
      :fault="fault('keeping')"
      :choices="choicesOf(rules)"
    />
    <TextField
      v-if="form.keeping === 'share'"
      v-model="form.keepingPercent"
      :label="names.keepingPercent"
      :fault="fault('keepingPercent')"
      maxlength="7"
    />
    <TextField v-model="form.quoteDays" :label="names.quoteDays" :fault="fault('quoteDays')" maxlength="3" />
    <p class="quiet">
      What may be kept is also a matter of law and of what was agreed with the customer: this is a proposal that you see
      before an order is cancelled.
    </p>
    <SaveTrouble :trouble="trouble" />
    <ClashNote :clashes="clashes" :names="names" @mine="keepMine" @theirs="takeTheirs" />
    <ActRow v-if="role === 'owner'">
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save' }}</button>
    </ActRow>
  </form>
  <LetterheadForm />
</template>

<style scoped>
.terms {
  display: grid;
  gap: 12px;
  max-width: 520px;
}
</style>
