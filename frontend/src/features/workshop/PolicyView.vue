<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useMe } from '@/features/session/queries'
import EditDialog from '@/ui/EditDialog.vue'
import { fieldsOf } from '@/ui/fields'
import LimitEffect from './LimitEffect.vue'
import LimitList from './LimitList.vue'
import SchoolEffect from './SchoolEffect.vue'
import { useChangeLimit, useChooseSchool, useLimits, useSchools } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** What the workshop decides for itself: schools where practitioners disagree, and limits with their sources. */
const { data: limits } = useLimits()
const { data: schools, error } = useSchools()
const { data: me } = useMe()
const lead = computed(() => me.value?.role === 'lead')
const limit = ref<Schemas['LimitOut'] | null>(null)
const school = ref<Schemas['ChosenSchoolOut'] | null>(null)
const changing = useChangeLimit()
const choosing = useChooseSchool()
const LIMIT = computed(() => {
  const row = limit.value
  const hint = 'Edition, clause or local rule. Empty: the source’s figure counts again.'
  return fieldsOf<Schemas['LimitEdit']>({
    value: row?.value === null ? 'kept' : { label: `Limit, ${row?.unit ?? ''}`, kind: 'number' },
    after_s: row?.after_s === null ? 'kept' : { label: 'After, s', kind: 'number' },
    reason: { label: 'Why', wide: true, hint },
  })
})
const SCHOOL = computed(() =>
  fieldsOf<Schemas['SchoolEdit']>({
    option: { label: school.value?.question ?? '', kind: 'select', options: school.value?.options, wide: true },
    reason: { label: 'Why', wide: true, hint: 'The default needs no reason.' },
  }),
)
const group = (name: Schemas['LimitGroup']) => (limits.value ?? []).filter((row) => row.group === name)
const title = (row: Schemas['ChosenSchoolOut'], id: string) => row.options.find((option) => option.id === id)?.title
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Policy</h1>
    <p class="mt-1 max-w-prose text-slate7">
      Check each limit against the edition that binds you: local codes, the equipment’s standard and licensed practice
      decide.
    </p>
    <h2 class="mt-6 text-lead font-semibold">Where practitioners disagree</h2>
    <WaitingShape class="mt-2" :when="!schools && !error" :rows="6" />
    <ul class="mt-2 border-t border-slate2">
      <li v-for="row in schools" :key="row.id" class="border-b border-slate2">
        <component
          :is="lead ? 'button' : 'div'"
          class="grid w-full gap-x-4 py-2.5 text-left sm:grid-cols-[minmax(0,2fr)_minmax(0,3fr)_minmax(0,3fr)]"
          :class="lead ? 'hover:bg-sheet' : ''"
          @click="lead && (school = row)"
        >
          <span>{{ row.question }}</span>
          <span
            ><span class="text-lead font-semibold">{{ title(row, row.option) }}</span>
            <span v-if="row.option !== row.default" class="block text-small font-semibold text-ochre-text"
              >chosen here: {{ row.reason }}; usual: {{ title(row, row.default) }}</span
            ></span
          >
          <span class="text-small text-slate5">{{ row.why }} {{ row.effect }}</span>
        </component>
      </li>
    </ul>
    <h2 class="mt-8 text-lead font-semibold">Limits of verdicts</h2>
    <LimitList :limits="group('verdict')" :lead @choose="limit = $event" />
    <h2 class="mt-8 text-lead font-semibold">Limits of discharge and touch</h2>
    <LimitList :limits="group('discharge')" :lead @choose="limit = $event" />
    <EditDialog
      v-if="limit"
      :title="limit.group === 'verdict' ? limit.applies_to : limit.id"
      :fields="LIMIT"
      :start="{ ...limit }"
      :writer="changing"
      submit="Count with this"
      @close="limit = null"
    >
      <template #reason="{ draft }"
        ><LimitEffect v-if="limit.group === 'verdict'" :id="limit.id" :typed="draft.value"
      /></template>
    </EditDialog>
    <EditDialog
      v-if="school"
      title="Choose a school"
      :fields="SCHOOL"
      :start="{ ...school }"
      :writer="choosing"
      submit="Do it so"
      @close="school = null"
    >
      <template #option="{ draft }">
        <p class="mt-2 text-small text-slate7">{{ school.why }} {{ school.effect }}</p>
        <SchoolEffect :id="school.id" :option="String(draft.option)" />
      </template>
    </EditDialog>
  </main>
</template>
