<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import ActRow from '../shared/ActRow.vue'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import FieldPair from '../shared/FieldPair.vue'
import { countIn } from '../shared/reading'
import SaveTrouble from '../shared/SaveTrouble.vue'
import { role } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'

// What stands on every paper that is issued.
const { data: head } = useAnswer('/api/letterhead')
const { act, busy, trouble, fault } = useAct()
const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => head.value,
  ({ seller, foot, daysToPay, yearsKept, firstNumber }) => ({
    seller,
    foot,
    daysToPay: String(daysToPay),
    yearsKept: String(yearsKept),
    firstNumber: String(firstNumber),
  }),
)
const names = {
  seller: 'Who sells',
  foot: 'Under an invoice',
  daysToPay: 'To be paid within, days',
  yearsKept: 'Names kept, years',
  firstNumber: 'Numbers begin at',
}
async function save() {
  const f = form.value!
  const body = {
    ...f,
    daysToPay: countIn(f.daysToPay),
    yearsKept: countIn(f.yearsKept),
    firstNumber: countIn(f.firstNumber),
    version: version.value,
  }
  await act(() => answerOf(api.PUT('/api/letterhead', { body })))
  if (!trouble.value) say({ text: 'The papers to come say so.' })
}
</script>

<template>
  <form v-if="form" class="head" novalidate aria-label="On papers" @submit.prevent="save">
    <h2>On papers</h2>
    <TextField
      v-model="form.seller"
      :label="names.seller"
      :rows="4"
      :fault="fault('seller')"
      hint="name, address and tax number, line by line; the studio’s name where empty"
      maxlength="600"
    />
    <TextField
      v-model="form.foot"
      :label="names.foot"
      :rows="2"
      :fault="fault('foot')"
      hint="such as the account it is paid to"
      maxlength="1000"
    />
    <FieldPair columns="1fr 1fr">
      <TextField
        v-model="form.daysToPay"
        :label="names.daysToPay"
        :fault="fault('daysToPay')"
        inputmode="numeric"
        maxlength="3"
      />
      <TextField
        v-model="form.firstNumber"
        :label="names.firstNumber"
        :fault="fault('firstNumber')"
        hint="of a kind not yet issued"
        inputmode="numeric"
        maxlength="7"
      />
      <TextField
        v-model="form.yearsKept"
        :label="names.yearsKept"
        :fault="fault('yearsKept')"
        hint="on invoices of whose data is erased, after the end of the year"
        inputmode="numeric"
        maxlength="2"
      />
    </FieldPair>
    <p class="quiet">
      What an invoice must say and how long it is kept is a matter of law: ask whoever does your books. What is said
      where no tax is charged belongs to a <RouterLink to="/products/prices">way of selling</RouterLink>.
    </p>
    <SaveTrouble :trouble="trouble" />
    <ClashNote :clashes="clashes" :names="names" @mine="keepMine" @theirs="takeTheirs" />
    <ActRow v-if="role === 'owner'">
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save what stands on papers' }}</button>
    </ActRow>
  </form>
</template>

<style scoped>
.head {
  display: grid;
  gap: 12px;
  max-width: 520px;
  margin-top: 24px;
}
</style>
