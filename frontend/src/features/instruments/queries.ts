import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import type { FieldsOf } from '@/ui/fields'

export function useMeters() {
  return useQuery({ queryKey: ['meters'], queryFn: () => ask(client.GET('/api/meters')) })
}

export function useResistors() {
  return useQuery({ queryKey: ['resistors'], queryFn: () => ask(client.GET('/api/resistors')) })
}

export function useSaveMeter(fields: FieldsOf<Schemas['MeterIn']>) {
  return useSave<Schemas['MeterIn'], Schemas['MeterOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/meters', { body, headers })),
    (meter_id, body, headers) =>
      ask(client.PUT('/api/meters/{meter_id}', { params: { path: { meter_id } }, body, headers })),
  )
}

export function useSaveResistor(fields: FieldsOf<Schemas['ResistorIn']>) {
  return useSave<Schemas['ResistorIn'], Schemas['ResistorOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/resistors', { body, headers })),
    (resistor_id, body, headers) =>
      ask(client.PUT('/api/resistors/{resistor_id}', { params: { path: { resistor_id } }, body, headers })),
  )
}
