<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useSetPlan } from './queries'

/** What kind of supply it is, and what it gives when all is well. */
const { found } = defineProps<{ found: Schemas['PowerUpOut'] }>()
const { write, pending, at, general } = useSetPlan(found.job_id)
const typed = reactive({ ...found.plan })
const { forget } = useKept(`power plan ${found.job_id} ${found.plan.version}`, typed)
async function send() {
  if (await write({ ...typed })) forget()
}
</script>

<template>
  <FoldSection title="The plan" says="kind of supply, rail and current at full voltage" :open="!found.plan.version">
    <form class="grid grid-cols-2 gap-3" novalidate @submit.prevent="send">
      <SelectField
        v-model="typed.kind"
        class="col-span-2"
        label="Kind of supply"
        :options="found.kinds"
        :error="at('kind')"
      />
      <TextField v-model="typed.rail" label="Rail at full voltage" hint="such as 300 V" mono :error="at('rail')" />
      <TextField
        v-model="typed.current"
        label="Current at full voltage"
        hint="such as 100 mA"
        mono
        :error="at('current')"
      />
      <TextField
        v-model="typed.standby"
        label="It takes, at standby"
        hint="20 W: chooses the lamp"
        mono
        :error="at('standby')"
      />
      <TextField v-model="typed.steps" label="Steps, %" hint="empty: the usual ones" mono :error="at('steps')" />
      <label class="col-span-2 flex min-h-11 items-center gap-3">
        <input v-model="typed.closed" type="checkbox" class="size-5 accent-ochre" />
        Closed from the first test
      </label>
      <div class="col-span-2"><ActionButton type="submit" :disabled="pending">Set the plan</ActionButton></div>
      <ProblemNote class="col-span-2" :sentence="general" />
    </form>
  </FoldSection>
</template>
