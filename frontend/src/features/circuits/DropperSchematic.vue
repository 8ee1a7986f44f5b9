<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import SchemaPart from './SchemaPart.vue'
import SchemaValue from './SchemaValue.vue'
import WideBox from '@/ui/WideBox.vue'

/** The dropper as it is typed, drawn; its values are changed where they stand. */
const { typed } = defineProps<{ typed: Schemas['DropperIn'] }>()
const emit = defineEmits<{
  typed: [field: 'supply_voltage' | 'series' | 'capacitance' | 'bleed' | 'clamp' | 'smoothing', value: string]
}>()
const bridge = computed(() => typed.topology === 'bridge')
const shunt = computed(() => typed.topology === 'half_wave_shunt')
const says = computed(
  () =>
    `Schematic: mains ${typed.supply_voltage}, series resistor ${typed.series}, capacitor ${typed.capacitance}` +
    `${typed.bleed ? ` with ${typed.bleed} across it` : ', no bleed'}, ${
      bridge.value ? 'bridge' : shunt.value ? 'zener as reverse diode, series diode' : 'reverse and series diode'
    }, smoothing ${typed.smoothing}, zener ${typed.clamp}.`,
)
</script>

<template>
  <WideBox label="Schematic">
    <svg viewBox="0 -16 690 226" role="group" :aria-label="says" class="w-full max-w-3xl min-w-160 text-ink">
      <g stroke="currentColor" stroke-width="1.6" fill="none">
        <SchemaPart
          kind="source"
          :x="40"
          :y="90"
          down
          :label="typed.supply_voltage"
          name="Mains"
          @typed="emit('typed', 'supply_voltage', $event)"
        />
        <path d="M40 90V60H60M40 150V196" />
        <SchemaPart
          kind="resistor"
          :x="60"
          :y="60"
          :label="typed.series"
          name="Series resistor"
          @typed="emit('typed', 'series', $event)"
        />
        <path d="M120 60H150" />
        <SchemaPart kind="capacitor" :x="150" :y="60" />
        <SchemaValue
          :x="180"
          :y="94"
          anchor="middle"
          :size="14"
          :text="typed.capacitance ?? ''"
          name="Capacitance"
          @typed="emit('typed', 'capacitance', $event)"
        />
        <template v-if="typed.bleed">
          <path d="M140 60V24H150M210 24H220V60" />
          <SchemaPart
            kind="resistor"
            :x="150"
            :y="24"
            :label="typed.bleed"
            name="Bleed"
            @typed="emit('typed', 'bleed', $event)"
          />
        </template>
        <path d="M210 60H260" />
        <template v-if="bridge">
          <path d="M260 60V106H290" />
          <SchemaPart kind="diode" :x="290" :y="126" down flip />
          <SchemaPart kind="diode" :x="290" :y="46" down flip />
          <SchemaPart kind="diode" :x="350" :y="46" down flip />
          <SchemaPart kind="diode" :x="350" :y="126" down flip />
          <path d="M290 106V126M350 106V126M290 46H640M40 196H270V118H350M290 186H640" />
        </template>
        <template v-else>
          <SchemaPart
            v-if="shunt"
            kind="zener"
            :x="270"
            :y="90"
            down
            flip
            :label="typed.clamp"
            name="Zener"
            @typed="emit('typed', 'clamp', $event)"
          />
          <SchemaPart v-else kind="diode" :x="270" :y="90" down flip />
          <path d="M260 60H320M270 60V90M270 150V196M40 196H640" />
          <SchemaPart kind="diode" :x="320" :y="60" />
          <path d="M380 60H640" />
        </template>
        <g :transform="bridge ? 'translate(0 -14)' : ''">
          <SchemaPart
            kind="polarised"
            :x="430"
            :y="90"
            down
            :label="typed.smoothing"
            name="Smoothing"
            @typed="emit('typed', 'smoothing', $event)"
          />
          <path :d="bridge ? 'M430 60V90M430 150V200' : 'M430 60V90M430 150V196'" />
          <template v-if="!shunt">
            <SchemaPart
              kind="zener"
              :x="520"
              :y="90"
              down
              flip
              :label="typed.clamp"
              name="Zener"
              @typed="emit('typed', 'clamp', $event)"
            />
            <path :d="bridge ? 'M520 60V90M520 150V200' : 'M520 60V90M520 150V196'" />
          </template>
          <SchemaPart kind="resistor" :x="620" :y="90" down label="load" />
          <path :d="bridge ? 'M620 60V90M620 150V200' : 'M620 60V90M620 150V196'" />
        </g>
      </g>
    </svg>
  </WideBox>
</template>
