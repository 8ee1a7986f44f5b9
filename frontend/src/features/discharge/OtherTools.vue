<script setup lang="ts">
import { ref } from 'vue'
import { ProblemError, type Schemas } from '@/api/client'
import TextField from '@/ui/TextField.vue'
import { useOtherTools } from './queries'

/** Lamp, load and blade: what each does, and why it is not the first choice. */
const { positionId, offered } = defineProps<{ positionId: string; offered: Schemas['OtherToolOut'][] }>()
const typed = ref({ lamp_voltage: '230 V', lamp_power: '60 W', load: '10 kΩ' })
const { data, error } = useOtherTools(positionId, typed)
const at = (field: string) => (error.value instanceof ProblemError ? error.value.at(field) : undefined)
</script>

<template>
  <section>
    <p class="mt-2">The resistor tool comes first: its current is controlled, and there is no arc.</p>
    <div class="mt-2 grid gap-3 sm:grid-cols-3">
      <TextField v-model="typed.lamp_voltage" label="Lamp, rated voltage" mono :error="at('lamp_voltage')" />
      <TextField v-model="typed.lamp_power" label="Lamp, rated power" mono :error="at('lamp_power')" />
      <TextField v-model="typed.load" label="Load left on" mono :error="at('load')" />
    </div>
    <ul class="mt-3">
      <li v-for="tool in data ?? offered" :key="tool.name" class="border-t border-slate2 py-2">
        <p>
          <strong class="font-semibold">{{ tool.name }}</strong>
          <span v-if="tool.advised_against" class="font-semibold text-danger"> · advised against</span>
        </p>
        <p>{{ tool.sentence }}</p>
        <p class="text-small text-slate7">{{ tool.why }}</p>
      </li>
    </ul>
  </section>
</template>
