/** Terminals an old switch may have. */
export const oldTerminals = ['a', 'b', 'common', 't1', 't2', 'a1', 'a2', 'b1', 'b2'] as const
/** What may become of another location: its 3-way stays; a plain switch that is listened to; a wired companion; nothing in the wiring; or the device that carries the load sits there. */
export const otherLocations = ['asItWas', 'sensed', 'companion', 'through', 'partner'] as const
