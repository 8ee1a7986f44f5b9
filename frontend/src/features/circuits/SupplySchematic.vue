<script setup lang="ts">
import type { Schemas } from '@/api/client'
import SchemaPart from './SchemaPart.vue'
import SchemaValue from './SchemaValue.vue'
import WideBox from '@/ui/WideBox.vue'

/** The supply as it is typed, drawn; its values are changed where they stand. */
const { typed } = defineProps<{ typed: Schemas['SupplyIn'] }>()
const emit = defineEmits<{ typed: [field: 'mains' | 'secondary' | 'reservoir' | 'load', value: string] }>()
</script>

<template>
  <WideBox label="Schematic">
    <svg
      viewBox="0 0 600 200"
      role="group"
      :aria-label="`Schematic: transformer ${typed.secondary}, ${typed.topology?.replaceAll('_', ' ')}, reservoir ${typed.reservoir}, load ${typed.load}.`"
      class="w-full max-w-3xl min-w-140 text-ink"
    >
      <g stroke="currentColor" stroke-width="1.6" fill="none">
        <SchemaPart kind="winding" :x="60" :y="70" down />
        <path d="M20 60H60V70M20 140H60V130M82 62V138M88 62V138" />
        <SchemaValue :x="12" :y="105" :text="typed.mains ?? ''" name="Mains" @typed="emit('typed', 'mains', $event)" />
        <template v-if="typed.topology === 'full_wave'">
          <SchemaPart kind="winding" :x="112" :y="36" down flip />
          <SchemaPart kind="winding" :x="112" :y="96" down flip />
          <path d="M112 36H180M112 156H180M112 96H150V176H560M240 36H270V156H240M270 96H270M270 60H560" />
          <SchemaPart kind="diode" :x="180" :y="36" />
          <SchemaPart kind="diode" :x="180" :y="156" />
          <SchemaValue
            :x="130"
            :y="74"
            :text="typed.secondary ?? ''"
            name="Secondary"
            @typed="emit('typed', 'secondary', $event)"
          />
        </template>
        <template v-else>
          <SchemaPart kind="winding" :x="112" :y="70" down flip />
          <SchemaValue
            :x="126"
            :y="104"
            :text="typed.secondary ?? ''"
            name="Secondary"
            @typed="emit('typed', 'secondary', $event)"
          />
          <template v-if="typed.topology === 'half_wave'">
            <path d="M112 70V60H200M260 60H560M112 130V176H560" />
            <SchemaPart kind="diode" :x="200" :y="60" />
          </template>
          <template v-else-if="typed.topology === 'doubler'">
            <path d="M112 70V50H200M260 36H560M112 130V118H400M260 36V50M260 50V36M200 50V36M200 64V50" stroke="none" />
            <path d="M112 70V36H200M260 36H560M112 130V118H400M180 36V176H200M260 176H560" />
            <SchemaPart kind="diode" :x="200" :y="36" />
            <SchemaPart kind="diode" :x="200" :y="176" flip />
          </template>
          <template v-else>
            <path d="M112 70V60H220V100H250M112 130V140H230V120H320M250 40H560M250 180H560M250 100V120" />
            <SchemaPart kind="diode" :x="250" :y="40" down flip />
            <SchemaPart kind="diode" :x="250" :y="120" down flip />
            <SchemaPart kind="diode" :x="320" :y="40" down flip />
            <SchemaPart kind="diode" :x="320" :y="120" down flip />
            <path d="M320 100V120" />
          </template>
        </template>
        <template v-if="typed.topology === 'doubler'">
          <SchemaPart
            kind="polarised"
            :x="400"
            :y="48"
            down
            :label="typed.reservoir"
            name="Reservoir"
            @typed="emit('typed', 'reservoir', $event)"
          />
          <SchemaPart
            kind="polarised"
            :x="400"
            :y="118"
            down
            :label="typed.reservoir"
            name="Reservoir"
            @typed="emit('typed', 'reservoir', $event)"
          />
          <path d="M400 36V48M400 108V118M400 178V176" />
          <SchemaPart
            kind="resistor"
            :x="520"
            :y="76"
            down
            :label="typed.load"
            name="Load"
            @typed="emit('typed', 'load', $event)"
          />
          <path d="M520 36V76M520 136V176" />
        </template>
        <g v-else>
          <SchemaPart
            kind="polarised"
            :x="400"
            :y="86"
            down
            :label="typed.reservoir"
            name="Reservoir"
            @typed="emit('typed', 'reservoir', $event)"
          />
          <path :d="typed.topology === 'bridge' ? 'M400 40V86M400 146V180' : 'M400 60V86M400 146V176'" />
          <SchemaPart
            kind="resistor"
            :x="520"
            :y="86"
            down
            :label="typed.load"
            name="Load"
            @typed="emit('typed', 'load', $event)"
          />
          <path :d="typed.topology === 'bridge' ? 'M520 40V86M520 146V180' : 'M520 60V86M520 146V176'" />
        </g>
      </g>
    </svg>
  </WideBox>
</template>
