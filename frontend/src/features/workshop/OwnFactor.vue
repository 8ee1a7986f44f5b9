<script setup lang="ts">
import { ref } from 'vue'
import FactorSteps from '@/features/session/FactorSteps.vue'
import { useMe, useRemoveOwnFactor, useRenewCodes } from '@/features/session/queries'
import ActionButton from '@/ui/ActionButton.vue'
import DeliberateButton from '@/ui/DeliberateButton.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'

/** One's own second factor: set up, its recovery codes, off again. */
const { data: me } = useMe()
const removing = useRemoveOwnFactor()
const renewing = useRenewCodes()
const open = ref(false)
const codes = ref<string[]>()
async function renew() {
  codes.value = (await renewing.write(null))?.codes
  open.value = codes.value !== undefined
}
function close() {
  open.value = false
  codes.value = undefined
}
</script>

<template>
  <template v-if="me">
    <ActionButton v-if="!me.second_factor" @click="open = true">Set up a second factor</ActionButton>
    <template v-else>
      <ActionButton @click="renew">New recovery codes</ActionButton>
      <DeliberateButton @act="removing.write(null)">Take my second factor off</DeliberateButton>
    </template>
    <ProblemNote class="w-full" :sentence="removing.general.value || renewing.general.value" />
    <ModalDialog v-if="open" :title="codes ? 'New recovery codes' : 'A second factor'" @close="close">
      <FactorSteps :codes @done="close" @cancel="close" />
    </ModalDialog>
  </template>
</template>
