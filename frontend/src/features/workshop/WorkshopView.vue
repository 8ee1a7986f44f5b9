<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useMe } from '@/features/session/queries'
import ActionButton from '@/ui/ActionButton.vue'
import DeliberateButton from '@/ui/DeliberateButton.vue'
import EditDialog from '@/ui/EditDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { fieldsOf, type Draft } from '@/ui/fields'
import HousePanel from './HousePanel.vue'
import OwnFactor from './OwnFactor.vue'
import WorkshopRecord from './WorkshopRecord.vue'
import { useAddMember, useEditMember, useMembers, useOwnPassword, useRemoveFactor, useResetPassword } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** Who works here, and their passwords. A lead changes members; everybody changes their own password. */
const { data: me } = useMe()
const { data: members, error } = useMembers()
const lead = computed(() => me.value?.role === 'lead')
const ROLE = {
  label: 'Role',
  kind: 'select' as const,
  options: [
    { id: 'lead', title: 'lead' },
    { id: 'technician', title: 'technician' },
    { id: 'apprentice', title: 'apprentice' },
  ],
}
const NEW = fieldsOf<Schemas['NewMember']>({
  name: { label: 'Name' },
  role: ROLE,
  username: { label: 'User name' },
  password: { label: 'First password', kind: 'password', hint: 'at least ten characters' },
})
const EDIT = fieldsOf<Schemas['MemberEdit']>({
  name: { label: 'Name' },
  role: ROLE,
  is_active: { label: 'may sign in', kind: 'check' },
})
const OWN = fieldsOf<Schemas['OwnPassword']>({
  old: { label: 'Present password', kind: 'password' },
  new: { label: 'New password', kind: 'password', hint: 'at least ten characters' },
})
const RESET = fieldsOf<Schemas['NewPassword']>({
  new: { label: 'New password', kind: 'password', hint: 'at least ten characters' },
})
const adding = useAddMember(NEW)
const editing = useEditMember(EDIT)
const own = useOwnPassword()
const resetting = useResetPassword()
const unlocking = useRemoveFactor()
const open = ref<{ what: 'add' | 'edit' | 'own' | 'reset'; start: Draft } | null>(null)
const said = ref('')
const close = () => (open.value = null)
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">{{ me?.workshop }}</h1>
    <div class="mt-5 grid gap-x-12 gap-y-8 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <div>
        <h2 class="text-small font-semibold text-slate7">Members</h2>
        <WaitingShape class="mt-1" :when="!members && !error" :rows="3" />
        <ul class="mt-1 border-t border-slate2">
          <li
            v-for="member in members"
            :key="member.id"
            class="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-slate2 py-2"
          >
            <span class="min-w-36">
              <span class="font-semibold">{{ member.name }}</span>
              <span class="block text-small text-slate5">{{ member.username }}</span>
            </span>
            <span class="min-w-24"
              >{{ member.role }}<template v-if="!member.is_active">, may not sign in</template
              ><span v-if="member.second_factor" class="block text-small text-slate5">second factor</span></span
            >
            <template v-if="lead">
              <ActionButton @click="open = { what: 'edit', start: { ...member } }"
                >Change {{ member.name }}</ActionButton
              >
              <ActionButton @click="open = { what: 'reset', start: { id: member.id } }"
                >Set a password for {{ member.name }}</ActionButton
              >
              <DeliberateButton v-if="member.second_factor && member.id !== me?.id" @act="unlocking.write(member.id)"
                >Take off the second factor of {{ member.name }}</DeliberateButton
              >
            </template>
          </li>
        </ul>
        <div class="mt-4 flex flex-wrap gap-3">
          <ActionButton v-if="lead" primary @click="open = { what: 'add', start: { role: 'technician' } }"
            >Add a member</ActionButton
          >
          <ActionButton @click="open = { what: 'own', start: {} }">Change my password</ActionButton>
          <OwnFactor />
        </div>
      </div>
      <HousePanel />
    </div>
    <WorkshopRecord />
    <ProblemNote class="mt-3" :sentence="unlocking.general.value" />
    <p v-if="said" class="mt-3 text-tide" role="status">{{ said }}</p>
    <EditDialog
      v-if="open?.what === 'add'"
      title="Add a member"
      :fields="NEW"
      :start="open.start"
      :writer="adding"
      @close="close"
    />
    <EditDialog
      v-else-if="open?.what === 'edit'"
      title="Change a member"
      :fields="EDIT"
      :start="open.start"
      :writer="editing"
      @close="close"
    />
    <EditDialog
      v-else-if="open"
      :title="open.what === 'own' ? 'Change my password' : 'Set a password'"
      :fields="open.what === 'own' ? OWN : RESET"
      :start="open.start"
      :writer="open.what === 'own' ? own : resetting"
      submit="Set it"
      @saved="said = 'The password is changed.'"
      @close="close"
    />
  </main>
</template>
