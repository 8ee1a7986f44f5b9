<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useMe } from '@/features/session/queries'
import EditDialog from '@/ui/EditDialog.vue'
import type { FieldSpec } from '@/ui/fields'
import { useChangeLimit, useLimits } from './queries'

/** The limits by which the workshop judges, each with its source; a lead may change one, with a reason. */
const { data: limits } = useLimits()
const { data: me } = useMe()
const lead = computed(() => me.value?.role === 'lead')
const chosen = ref<Schemas['LimitOut'] | null>(null)
const writer = useChangeLimit()
const FIELDS = computed<FieldSpec[]>(() => {
  const row = chosen.value
  const fields: FieldSpec[] = []
  if (row?.value !== null) fields.push({ name: 'value', label: `Limit, ${row?.unit}`, kind: 'number' })
  if (row?.after_s !== null) fields.push({ name: 'after_s', label: 'After, s', kind: 'number' })
  const hint = 'Edition, clause or local rule. Empty: the standard’s row counts again.'
  return [...fields, { name: 'reason', label: 'Why', wide: true, hint }]
})
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Limits</h1>
    <p class="mt-1 max-w-prose text-slate7">
      Check each against the edition that binds you: local codes, the equipment’s standard and licensed practice decide.
    </p>
    <ul class="mt-3 border-t border-slate2">
      <li v-for="row in limits" :key="row.id" class="border-b border-slate2">
        <component
          :is="lead ? 'button' : 'div'"
          class="grid w-full gap-x-4 py-3 text-left sm:grid-cols-[minmax(0,2fr)_minmax(0,3fr)_minmax(0,3fr)]"
          :class="lead ? 'hover:bg-sheet' : ''"
          @click="lead && (chosen = row)"
        >
          <span class="font-mono text-lead">{{ row.said }}</span>
          <span>{{ row.applies_to }}</span>
          <span class="text-small text-slate5"
            >{{ row.id
            }}<span v-if="row.changed" class="block font-semibold text-ochre-text"
              >changed here: {{ row.reason }}; the standard says {{ row.standard_said }}</span
            ></span
          >
        </component>
      </li>
    </ul>
    <EditDialog
      v-if="chosen"
      :title="chosen.id"
      :fields="FIELDS"
      :start="{ ...chosen }"
      :writer
      submit="Count with this"
      @close="chosen = null"
    />
  </main>
</template>
