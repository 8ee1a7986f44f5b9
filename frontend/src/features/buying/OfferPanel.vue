<script setup lang="ts">
import { useKept } from '@/api/kept'
import { computed, reactive, ref } from 'vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useOffers, usePutOffer, useSuppliers, useWant } from './queries'

/** What a part is offered for, a line to write a price down, and putting it on the shopping list. */
const { partId } = defineProps<{ partId: string }>()
const { data: offers } = useOffers(partId)
const { data: suppliers } = useSuppliers()
const { write: put, pending, at, general } = usePutOffer()
const { write: want, at: wrong, general: notWanted } = useWant()
const typed = reactive({ supplier_id: '', prices: '', code: '', quantity: '1' })
const said = ref('')
useKept(`offer ${partId}`, typed)
const sellers = computed(() => suppliers.value?.map((supplier) => ({ id: supplier.id, title: supplier.name })) ?? [])
const seller = computed({
  get: () => typed.supplier_id || sellers.value[0]?.id || '',
  set: (id) => (typed.supplier_id = id),
})

async function write() {
  const { prices, code } = typed
  if (await put({ supplier_id: seller.value, part_id: partId, prices, code, pack: 1, available: null }))
    typed.prices = ''
}
async function list() {
  const body = {
    part_id: partId,
    quantity: Number(typed.quantity) || 0,
    position_id: null,
    needed_by: null,
    only_this: false,
  }
  if (await want(body)) said.value = 'On the shopping list.'
}
</script>

<template>
  <section aria-label="Buying" class="mt-4">
    <ul v-if="offers?.length">
      <li
        v-for="offer in offers"
        :key="offer.id"
        class="grid gap-x-4 border-t border-slate2 py-1.5 sm:grid-cols-[minmax(0,1fr)_auto]"
      >
        <span
          >{{ offer.supplier_name }}
          <span class="text-small text-slate5">{{ offer.code }} {{ offer.stale }}</span></span
        >
        <span class="font-mono"
          >{{ offer.prices }}<template v-if="offer.pack > 1">, by {{ offer.pack }}</template></span
        >
      </li>
    </ul>
    <form class="mt-2 flex flex-wrap items-end gap-3" novalidate @submit.prevent="list">
      <TextField v-model="typed.quantity" class="w-24" label="Buy" mono :error="wrong('quantity')" />
      <ActionButton type="submit">Put on the shopping list</ActionButton>
      <span class="min-h-11 py-2.5 text-slate7" role="status">{{ said }}</span>
    </form>
    <form v-if="sellers.length" class="mt-2 grid items-end gap-3 sm:grid-cols-3" novalidate @submit.prevent="write">
      <SelectField v-model="seller" label="Supplier" :options="sellers" :error="at('supplier_id')" />
      <TextField v-model="typed.prices" label="Asks" hint="1: 0.42, 10: 0.36" mono :error="at('prices')" />
      <TextField v-model="typed.code" label="Its number there" mono :error="at('code')" />
      <ActionButton class="justify-self-start sm:col-span-3" type="submit" asks="decide" :disabled="pending"
        >Write the price down</ActionButton
      >
    </form>
    <ProblemNote class="mt-2" :sentence="general || notWanted" />
  </section>
</template>
