<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { ProblemError } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useQuestion } from './queries'

/** May this part replace that one: answered from two markings, before any job exists. */
const typed = reactive({ old: '', new: '', role: '', kind: '', supply_voltage: '230 V' })
const { data: found, error } = useQuestion(toRef(() => ({ ...typed })))
const { data: words } = useVocabulary()
const at = (field: string) =>
  error.value instanceof ProblemError && typed.old && typed.new ? error.value.at(field) : undefined
const roles = computed(() => [{ id: '', title: 'as its marking says' }, ...(words.value?.roles ?? [])])
const kinds = computed(() => [{ id: '', title: 'as its marking says' }, ...(words.value?.kinds ?? [])])
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">May this part replace that one?</h1>
    <form class="mt-4 grid max-w-4xl gap-3 sm:grid-cols-2" @submit.prevent>
      <TextField
        v-model="typed.old"
        label="The old part, as printed"
        hint="such as 3n3 M Y2 300 V~"
        mono
        :error="at('old')"
      />
      <TextField
        v-model="typed.new"
        label="The new part, as printed"
        hint="such as 3n3 K X1 440 V~"
        mono
        :error="at('new')"
      />
      <SelectField v-model="typed.role" label="What the place does" :options="roles" :error="at('role')" />
      <SelectField v-model="typed.kind" label="What the new part is made as" :options="kinds" :error="at('kind')" />
      <TextField v-model="typed.supply_voltage" label="Mains" mono :error="at('supply_voltage')" />
    </form>
    <section
      v-if="found && typed.old && typed.new && !error"
      class="mt-6 max-w-4xl"
      aria-label="The answer"
      aria-live="polite"
    >
      <p
        class="border-l-[6px] px-4 py-2 text-[2rem] leading-tight font-semibold"
        :class="found.allowed ? 'border-tide' : 'border-danger bg-danger-w'"
      >
        {{ found.allowed ? 'It may, by these markings.' : 'No.' }}
      </p>
      <p class="mt-1 text-small text-slate5">
        As a {{ found.kind_title }} part in a place of {{ found.role_title }}; local codes and the equipment’s standard
        decide.
      </p>
      <ul class="mt-3">
        <li v-for="refusal in found.refusals" :key="refusal.rule_id" class="border-t border-slate2 py-2">
          <span class="text-lead">{{ refusal.sentence }}</span>
          <span class="block text-small text-slate5"
            >{{ refusal.source }},
            {{ refusal.hard ? 'nobody may decide otherwise' : 'a demand: may be overridden with a reason' }}</span
          >
        </li>
        <li
          v-for="sentence in [...found.conditions, ...found.reasons]"
          :key="sentence"
          class="border-t border-slate2 py-2"
        >
          {{ sentence }}
        </li>
      </ul>
    </section>
  </main>
</template>
