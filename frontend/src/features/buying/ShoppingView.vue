<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import OnTheWay from './OnTheWay.vue'
import SpecifiedRow from './SpecifiedRow.vue'
import SupplierPanel from './SupplierPanel.vue'
import { useDrop, useOrder, useShopping } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** What is wanted, and the cheapest basket that brings all of it. */
const { data: list, error } = useShopping()
const { write: drop, general: notDropped } = useDrop()
const { write: order, pending, general } = useOrder()
const day = (date: string) => new Date(date).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Shopping list</h1>
    <ProblemNote v-if="error" :sentence="error.message" />
    <WaitingShape class="mt-3" :when="!list && !error" :rows="6" />
    <div v-if="list" class="mt-3 grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      <section aria-label="Wanted">
        <h2 class="text-small font-semibold text-slate7">Wanted</h2>
        <ul>
          <li
            v-for="want in list.wants"
            :key="want.id"
            class="grid grid-cols-[2.500rem_minmax(0,1fr)_auto] items-start gap-x-3 border-t border-slate2 py-2"
          >
            <span class="font-mono text-lead">{{ want.left }}</span>
            <span>
              {{ want.specification.length ? 'To a specification' : want.marking }}
              <span class="block text-small text-slate5">
                <RouterLink
                  v-if="want.job_id"
                  class="underline underline-offset-2"
                  :to="sheetOf(want.job_id, 'replace')"
                  >job {{ want.job_number }}, {{ want.position_name }}</RouterLink
                ><template v-else>for the drawer</template
                ><template v-if="want.needed_by"
                  >,
                  <span :class="want.late ? 'font-semibold text-ochre-text' : ''"
                    >by {{ day(want.needed_by) }}{{ want.late ? ', late' : '' }}</span
                  ></template
                ><template v-if="want.alternates">, or {{ want.alternates }} others that may take the place</template>
              </span>
              <SpecifiedRow v-if="want.specification.length" :want />
            </span>
            <button
              class="min-h-11 px-2 text-small underline underline-offset-2"
              :aria-label="`Take ${want.marking} off the list`"
              @click="drop(want)"
            >
              off
            </button>
          </li>
        </ul>
        <p v-if="!list.wants.length" class="border-t border-slate2 py-3 text-slate7">
          Nothing is wanted. A part is put here from the place that needs it, or from the drawer.
        </p>
        <ProblemNote class="mt-2" :sentence="notDropped" />
        <OnTheWay v-if="list.ordered.length" :ordered="list.ordered" />
      </section>
      <section v-if="list.wants.length" aria-label="The cheapest basket">
        <div class="flex flex-wrap items-end gap-x-5 gap-y-1">
          <p>
            <span class="block text-small font-semibold text-slate7">The cheapest basket, postage and all</span>
            <strong class="font-mono text-number font-medium">{{ list.basket.total }}</strong>
          </p>
          <p class="pb-2 text-slate7">
            {{ list.basket.proved ? 'Nothing cheaper exists.' : `At most ${list.basket.off_by} cheaper may exist.` }}
            <span v-if="list.basket.apart" class="block"
              >Each job alone <span class="font-mono">{{ list.basket.apart }}</span></span
            >
            <span v-if="list.basket.counter" class="block"
              >Round the corner <span class="font-mono">{{ list.basket.counter }}</span><template
                v-if="list.basket.counter_lacks"
                >, {{ list.basket.counter_lacks }} not there</template
              ></span
            >
          </p>
        </div>
        <p
          v-for="line in list.basket.missing"
          :key="line"
          class="mt-2 border-l-[3px] border-ochre bg-ochre-w px-3 py-2"
        >
          Nobody offers {{ line }} in time.
        </p>
        <ProblemNote class="mt-2" :sentence="general" />
        <article
          v-for="(parcel, index) in list.basket.parcels"
          :key="parcel.supplier_id"
          class="mt-5"
          :aria-label="parcel.name"
        >
          <header class="flex flex-wrap items-baseline justify-between gap-x-4 border-b-2 border-slate3 pb-1">
            <h2 class="text-lead font-semibold">{{ parcel.name }}</h2>
            <p class="text-slate7">
              {{ parcel.days ? `${parcel.days} days` : 'today' }}, goods {{ parcel.goods }}, postage
              {{ parcel.postage }},
              <strong class="font-mono text-lead font-medium text-ink">{{ parcel.total }}</strong>
            </p>
          </header>
          <ul>
            <li
              v-for="line in parcel.lines"
              :key="line.code + line.marking + line.each"
              class="grid grid-cols-[2.500rem_minmax(0,1fr)_auto] gap-x-3 border-b border-slate2 py-2"
            >
              <span class="font-mono">{{ line.units }}</span>
              <span>
                {{ line.marking }}
                <span class="block text-small text-slate5"
                  >{{ line.code ? `${line.code}, ` : '' }}{{ line.serves
                  }}<template v-if="line.stale"
                    >, <span class="text-ochre-text">{{ line.stale }}</span></template
                  ></span
                >
              </span>
              <span class="text-right font-mono"
                >{{ line.cost }}<span class="block text-small text-slate5">{{ line.each }} each</span></span
              >
            </li>
          </ul>
          <ActionButton
            class="mt-3"
            :primary="index === 0"
            asks="decide"
            :disabled="pending"
            @click="order({ supplier_id: parcel.supplier_id, total: parcel.total })"
            >Note it as ordered, {{ parcel.total }}</ActionButton
          >
        </article>
      </section>
    </div>
    <SupplierPanel />
  </main>
</template>
