import { currentUnits, pairingOf, type Unit } from '../../core/job'

/** The network devices of this home join, kept on this device: most join the one that its first joined, or that the phone is on. */
export function useHomeNetwork(unit?: Unit) {
  const { job } = injectJobRecord()
  const network = useLocalStorage(`circuitry-network-${job.value!.siteId}`, '')
  const known = () => currentUnits(job.value!).find(({ pairing }) => pairing?.network)?.pairing?.network
  if (!network.value) network.value = unit?.pairing?.network || known() || pairingOf(job.value!).accounts?.network || ''
  return network
}
