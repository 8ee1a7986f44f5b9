import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import { useWrite } from '@/api/write'
import type { FieldsOf } from '@/ui/fields'

export function useShopping() {
  return useQuery({ queryKey: ['shopping'], queryFn: () => ask(client.GET('/api/shopping')) })
}

export function useWant() {
  return useWrite(
    (body: Schemas['WantIn'], headers) => ask(client.POST('/api/shopping', { body, headers })),
    ['quantity', 'needed_by'],
  )
}

export function useDrop() {
  return useWrite(({ id, version }: Schemas['WantOut'], headers) =>
    ask(client.POST('/api/shopping/{want_id}/drop', { params: { path: { want_id: id } }, body: { version }, headers })),
  )
}

export function useOrder() {
  return useWrite((body: Schemas['OrderIn'], headers) => ask(client.POST('/api/orders', { body, headers })))
}

export function useReceive(ordered_id: string) {
  return useWrite(
    (body: Schemas['ReceiveIn'], headers) =>
      ask(client.POST('/api/orders/{ordered_id}/receive', { params: { path: { ordered_id } }, body, headers })),
    ['quantity', 'lot', 'date_code'],
  )
}

export function useCame(want_id: string) {
  return useWrite(
    (body: Schemas['CameIn'], headers) =>
      ask(client.POST('/api/shopping/{want_id}/came', { params: { path: { want_id } }, body, headers })),
    ['marking', 'kind', 'quantity', 'place', 'lot', 'date_code', 'price'],
  )
}

export function useSuppliers() {
  return useQuery({ queryKey: ['suppliers'], queryFn: () => ask(client.GET('/api/suppliers')) })
}

export function useSaveSupplier(fields: FieldsOf<Schemas['SupplierIn']>) {
  return useSave<Schemas['SupplierIn'], Schemas['SupplierOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/suppliers', { body, headers })),
    (supplier_id, body, headers) =>
      ask(client.PUT('/api/suppliers/{supplier_id}', { params: { path: { supplier_id } }, body, headers })),
  )
}

export function useAskPrices() {
  return useWrite((_: null, headers) => ask(client.POST('/api/prices', { headers })))
}

export function useOffers(part_id: string) {
  return useQuery({
    queryKey: ['offers', part_id],
    queryFn: () => ask(client.GET('/api/parts/{part_id}/offers', { params: { path: { part_id } } })),
  })
}

export function usePutOffer() {
  return useWrite(
    (body: Schemas['OfferIn'], headers) => ask(client.POST('/api/offers', { body, headers })),
    ['supplier_id', 'prices', 'pack', 'code'],
  )
}
