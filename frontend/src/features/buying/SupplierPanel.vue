<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useWork } from '@/api/work'
import ActionButton from '@/ui/ActionButton.vue'
import EditDialog from '@/ui/EditDialog.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import WorkBar from '@/ui/WorkBar.vue'
import { fieldsOf, type Draft } from '@/ui/fields'
import { useAskPrices, useSaveSupplier, useSuppliers } from './queries'

/** Who sells, what they ask besides their prices, and asking them all for today's prices. */
const FIELDS = fieldsOf<Schemas['SupplierIn']>({
  name: { label: 'Name', wide: true },
  postage: { label: 'Postage', kind: 'number' },
  minimum_order: { label: 'Minimum order', kind: 'number' },
  days: { label: 'Days until it comes', kind: 'number' },
  service_code: { label: 'Its name at the price service', mono: true, hint: 'empty: its prices are typed' },
  counter: { label: 'The counter round the corner', kind: 'check' },
})
const { data: suppliers } = useSuppliers()
const writer = useSaveSupplier(FIELDS)
const open = ref<Draft | null>(null)
const { write: ask, general } = useAskPrices()
const prices = useWork<Schemas['PricesOut']>()
const askAll = async () => prices.watch(await ask(null))
const queries = useQueryClient()
watch(prices.answer, (told) => told && void queries.invalidateQueries({ queryKey: ['shopping'] }))
</script>

<template>
  <FoldSection title="Suppliers" :says="suppliers?.map((supplier) => supplier.name).join(', ')">
    <ul aria-label="Suppliers">
      <li v-for="supplier in suppliers" :key="supplier.id" class="border-t border-slate2">
        <button
          class="grid w-full gap-x-4 py-3 text-left hover:bg-sheet sm:grid-cols-3"
          @click="open = { ...supplier }"
        >
          <span class="font-semibold">{{ supplier.name }}</span>
          <span>postage {{ supplier.postage }}, minimum order {{ supplier.minimum_order }}</span>
          <span>{{ supplier.counter ? 'round the corner' : `${supplier.days} days` }}</span>
        </button>
      </li>
    </ul>
    <div class="mt-3 flex flex-wrap gap-3">
      <ActionButton asks="decide" @click="open = {}">Add a supplier</ActionButton>
      <ActionButton :disabled="prices.running.value" @click="askAll">Ask for today’s prices</ActionButton>
    </div>
    <WorkBar v-if="prices.running.value" :work="prices.work.value" what="Asking suppliers" @stop="prices.stop()" />
    <p v-if="prices.answer.value" class="mt-3 border-l-[3px] border-tide bg-tide-w px-3 py-2" role="status">
      {{ prices.answer.value.renewed }} prices renewed. {{ prices.answer.value.silent.join(' ') }}
    </p>
    <ProblemNote class="mt-2" :sentence="general || prices.sentence.value" />
    <EditDialog
      v-if="open"
      asks="decide"
      title="Supplier"
      :fields="FIELDS"
      :start="open"
      :writer
      @close="open = null"
    />
  </FoldSection>
</template>
