import { computed, ref, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'
import type { Schemas } from '@/api/client'

type Meter = Schemas['MeterAllowed']
type Asked = Schemas['ProofAsked']

/** The meter used last, kept on this device; the first that may be used where that one may not. */
export function useChosenMeter(
  meters: MaybeRefOrGetter<Meter[]>,
  against = (meter: Meter) => meter.refusals,
): Ref<string> {
  const chosen = ref(localStorage.getItem('voltmeter') ?? '')
  watch(
    () => toValue(meters).filter((meter) => !against(meter).length),
    (allowed) => {
      if (!allowed.some((meter) => meter.id === chosen.value))
        chosen.value = allowed[0]?.id ?? toValue(meters)[0]?.id ?? ''
    },
    { immediate: true },
  )
  watch(chosen, (id) => id && localStorage.setItem('voltmeter', id))
  return chosen
}

export const meterOptions = (meters: Meter[], against = (meter: Meter) => meter.refusals) =>
  meters.map((meter) => ({ id: meter.id, title: against(meter).length ? `${meter.name}: not here` : meter.name }))

/** Why a meter may not be laid on: of one that comes after a probe, why not even then. */
const inAProof = (asked: Asked) => (meter: Meter) =>
  asked.two_stages && !meter.probe ? meter.after_probe : meter.refusals

export const proofOptions = (asked: Asked) => meterOptions(asked.meters, inAProof(asked))

/** The meter of a proof, with the probe that comes before it above 1 kV, and what speaks against it. */
export function useProofMeters(asked: () => Asked) {
  const probes = computed(() => asked().meters.filter((m) => m.probe && !m.refusals.length))
  const hand = () => (asked().two_stages ? asked().meters.filter((m) => !m.probe) : asked().meters)
  const meter = useChosenMeter(hand, (m) => inAProof(asked())(m))
  const probe = ref('')
  watch(probes, (found) => (probe.value ||= found[0]?.id ?? ''), { immediate: true })
  const chosen = computed(() => asked().meters.find((m) => m.id === meter.value))
  const probed = computed(() => asked().two_stages && chosen.value?.probe === false)
  const against = computed(() => (chosen.value ? inAProof(asked())(chosen.value) : []))
  return { meter, probe, chosen, probed, against }
}
