import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import { useWrite, type Writer } from '@/api/write'
import type { Draft, FieldsOf } from '@/ui/fields'

export function useWorkshopRecord() {
  return useQuery({ queryKey: ['workshop record'], queryFn: () => ask(client.GET('/api/workshop/record')) })
}

export function useWorkshopVerified() {
  return useQuery({ queryKey: ['workshop verified'], queryFn: () => ask(client.GET('/api/workshop/record/verified')) })
}

export function useTerms() {
  return useQuery({ queryKey: ['terms'], queryFn: () => ask(client.GET('/api/terms')) })
}

export function useSetTerms(): Writer<Draft, Schemas['TermsOut']> {
  return useWrite(
    (draft, headers) => ask(client.PUT('/api/terms', { body: draft as Schemas['TermsEdit'], headers })),
    ['hourly_rate', 'tax_percent', 'currency', 'warranty_months', 'address', 'decimal_sign', 'second_factor'],
  )
}

export function useCalendarAddress() {
  return useQuery({ queryKey: ['calendar address'], queryFn: () => ask(client.GET('/api/calendar-address')) })
}

export function useRenewCalendar() {
  return useWrite((body: Schemas['CalendarRenew'], headers) =>
    ask(client.POST('/api/calendar-address', { body, headers })),
  )
}

export function useEndCalendar() {
  return useWrite((_: null, headers) => ask(client.DELETE('/api/calendar-address', { headers })))
}

export function useTakeJob() {
  return useWrite(
    (file: File, headers) => {
      const form = new FormData()
      form.append('file', file)
      return ask(client.POST('/api/job-files', { body: { file: '' }, bodySerializer: () => form, headers }))
    },
    ['file'],
  )
}

export function useMembers() {
  return useQuery({ queryKey: ['members'], queryFn: () => ask(client.GET('/api/members')) })
}

export function useAddMember(fields: FieldsOf<Schemas['NewMember']>) {
  return useSave<Schemas['NewMember'], Schemas['MemberOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/members', { body, headers })),
    () => Promise.reject(new Error('who is new has no id yet')),
  )
}

export function useEditMember(fields: FieldsOf<Schemas['MemberEdit']>) {
  return useSave<Schemas['MemberEdit'], Schemas['MemberOut']>(
    fields,
    () => Promise.reject(new Error('who is changed is there')),
    (member_id, body, headers) =>
      ask(client.PUT('/api/members/{member_id}', { params: { path: { member_id } }, body, headers })),
  )
}

export function useRemoveFactor() {
  return useWrite((member_id: string, headers) =>
    ask(client.DELETE('/api/members/{member_id}/second-factor', { params: { path: { member_id } }, headers })),
  )
}

export function useOwnPassword(): Writer<Draft, Schemas['MemberOut']> {
  return useWrite(
    (draft, headers) => ask(client.POST('/api/session/password', { body: draft as Schemas['OwnPassword'], headers })),
    ['old', 'new'],
  )
}

export function useResetPassword(): Writer<Draft, Schemas['MemberOut']> {
  return useWrite(
    (draft, headers) => {
      const params = { path: { member_id: String(draft.id) } }
      const body = { new: String(draft.new) }
      return ask(client.POST('/api/members/{member_id}/password', { params, body, headers }))
    },
    ['new'],
  )
}

export function useLimits() {
  return useQuery({ queryKey: ['limits'], queryFn: () => ask(client.GET('/api/limits')) })
}

export function useChangeLimit(): Writer<Draft, Schemas['LimitOut']> {
  return useWrite(
    (draft, headers) => ask(client.PUT('/api/limits', { body: draft as Schemas['LimitEdit'], headers })),
    ['value', 'after_s', 'reason'],
  )
}

export function useSchools() {
  return useQuery({ queryKey: ['schools'], queryFn: () => ask(client.GET('/api/schools')) })
}

export function useChooseSchool(): Writer<Draft, Schemas['ChosenSchoolOut']> {
  return useWrite(
    ({ id, version, option, reason }, headers) =>
      ask(client.PUT('/api/schools', { body: { id, version, option, reason } as Schemas['SchoolEdit'], headers })),
    ['option', 'reason'],
  )
}

export function useLimitEffect(id: MaybeRefOrGetter<string>, value: MaybeRefOrGetter<number>) {
  const wanted = computed(() => toValue(value))
  return useQuery({
    queryKey: ['effect', id, wanted],
    queryFn: () =>
      ask(client.GET('/api/effects/limit', { params: { query: { id: toValue(id), value: wanted.value } } })),
    enabled: computed(() => wanted.value > 0),
    placeholderData: keepPreviousData,
    retry: false,
  })
}

export function useSchoolEffect(id: MaybeRefOrGetter<string>, option: MaybeRefOrGetter<string>) {
  const wanted = computed(() => toValue(option))
  return useQuery({
    queryKey: ['effect', id, wanted],
    queryFn: () =>
      ask(client.GET('/api/effects/school', { params: { query: { id: toValue(id), option: wanted.value } } })),
    placeholderData: keepPreviousData,
    retry: false,
  })
}
