/** Centre frequency of a Wi-Fi channel in the 2.4 GHz band, MHz: 2407 + 5 n; channel 14: 2484 (IEEE 802.11-2020, 15.4.4.3). */
export const wifiCentreMHz = (channel: number): number => (channel === 14 ? 2484 : 2407 + 5 * channel)
/** Centre frequency of a mesh channel 11 to 26, MHz: 2405 + 5 (k − 11) (IEEE 802.15.4-2020, 10.1.3.3). */
export const meshCentreMHz = (channel: number): number => 2405 + 5 * (channel - 11)
export const meshChannels = Array.from({ length: 16 }, (_, index) => index + 11)
/** Widths, MHz: a Wi-Fi channel of 20 MHz with its skirts, a mesh channel of 2 MHz. */
const wifiWideMHz = 22
const meshWideMHz = 2

/** How much of a mesh channel lies under a Wi-Fi channel, 0 to 1. */
export function overlap(mesh: number, wifi: number): number {
  const [low, high] = [meshCentreMHz(mesh) - meshWideMHz / 2, meshCentreMHz(mesh) + meshWideMHz / 2]
  const [from, to] = [wifiCentreMHz(wifi) - wifiWideMHz / 2, wifiCentreMHz(wifi) + wifiWideMHz / 2]
  return Math.max(0, Math.min(high, to) - Math.max(low, from)) / meshWideMHz
}
/**
 * Mesh channels by how little the home's Wi-Fi covers them; between equals the one furthest from any of its middles. Channel 26
 * last among equals: many devices send on it with less power.
 */
export function meshChannelPlan(wifiChannels: number[]): { channel: number; covered: number; apartMHz: number }[] {
  return meshChannels
    .map((channel) => ({
      channel,
      covered: wifiChannels.reduce((sum, wifi) => sum + overlap(channel, wifi), 0),
      apartMHz: Math.min(Infinity, ...wifiChannels.map((wifi) => Math.abs(meshCentreMHz(channel) - wifiCentreMHz(wifi)))),
    }))
    .sort((a, b) => a.covered - b.covered || Number(a.channel === 26) - Number(b.channel === 26) || b.apartMHz - a.apartMHz)
}
