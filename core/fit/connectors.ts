/** Bodies of connectors for three conductors, in³. They count nothing in the fill and take room all the same. Common practice, no source. */
export const connectorIn3 = { twist: 0.25, lever: 0.2, pushIn: 0.15, screw: 0.3 } as const

/** The room that the connectors of these splices take, in³; each further conductor a third more. */
export const connectorsIn3 = (
  splices: readonly { connector: keyof typeof connectorIn3; conductors: number }[],
  bodies: Record<keyof typeof connectorIn3, number> = connectorIn3,
): number => splices.reduce((sum, { connector, conductors }) => sum + bodies[connector] * Math.max(1, conductors / 3), 0)
