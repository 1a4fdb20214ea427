import type { GLPK } from 'glpk.js/node'
import { chargeCents, hubCents, weighedAlone, type PlanProblem } from '../problem'

/**
 * The least of a home by another solver (GLPK) and another formulation: each hub is a unit of its own that is bought or not, what
 * is shared is bound once for all that need it, and places are pairs that shut each other out where they hold one.
 */
export function leastByUnits(glpk: GLPK, problem: PlanProblem): number {
  const { solutions } = problem
  const cost: { name: string; coef: number }[] = solutions.map((one, index) => ({ name: `x${index}`, coef: weighedAlone(problem, one) }))
  const binaries = solutions.map((_, index) => `x${index}`)
  const subjectTo: { name: string; vars: { name: string; coef: number }[]; bnds: { type: number; ub: number; lb: number } }[] = []
  const row = (vars: { name: string; coef: number }[], type: number, bound: number) =>
    vars.length && subjectTo.push({ name: `r${subjectTo.length}`, vars, bnds: { type, ub: bound, lb: bound } })
  const those = (of: (one: (typeof solutions)[number]) => number) =>
    solutions.flatMap((one, index) => (of(one) ? [{ name: `x${index}`, coef: of(one) }] : []))
  for (const id of problem.pointIds)
    row(
      those(({ pointIds }) => (pointIds.includes(id) ? 1 : 0)),
      glpk.GLP_FX,
      1,
    )
  for (const [key, most] of Object.entries(problem.limits)) {
    const vars = those(({ uses }) => uses[key] ?? 0)
    if (most === 1 && vars.every(({ coef }) => coef === 1)) {
      for (const [index, one] of vars.entries()) for (const other of vars.slice(index + 1)) row([one, other], glpk.GLP_UP, 1)
    } else row(vars, glpk.GLP_UP, most)
  }
  for (const [key, charge] of Object.entries(problem.charges)) {
    const vars = those(({ needs }) => (needs.includes(key) ? 1 : 0))
    if (!vars.length) continue
    const name = `y${cost.length}`
    cost.push({ name, coef: chargeCents(problem, charge) })
    binaries.push(name)
    row([...vars, { name, coef: -vars.length }], glpk.GLP_UP, 0)
  }
  for (const [key, hub] of Object.entries(problem.hubs)) {
    const vars = those(({ onHub }) => onHub[key] ?? 0)
    const units = Math.ceil(vars.reduce((sum, { coef }) => sum + coef, 0) / hub.holds)
    const names = Array.from({ length: units }, (_, index) => `h${cost.length + index}`)
    for (const name of names) cost.push({ name, coef: hubCents(problem, hub) })
    binaries.push(...names)
    row([...vars, ...names.map((name) => ({ name, coef: -hub.holds }))], glpk.GLP_UP, hub.free)
    for (const [index, name] of names.entries())
      if (index)
        row(
          [
            { name, coef: 1 },
            { name: names[index - 1]!, coef: -1 },
          ],
          glpk.GLP_UP,
          0,
        )
  }
  const solved = glpk.solve(
    { name: 'home', objective: { direction: glpk.GLP_MIN, name: 'weighed', vars: cost }, subjectTo, binaries },
    { msglev: glpk.GLP_MSG_OFF, presol: true, mipgap: 0, tmlim: 60 },
  )
  if (solved.result.status !== glpk.GLP_OPT) throw new Error(`The other solver found no optimum (${solved.result.status}).`)
  return solved.result.z
}
