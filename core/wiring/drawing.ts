import { insulation } from '../connect/insulation'
import { terminalWords } from '../connect/steps'
import type { ConductorColour } from '../site'
import type { AsFoundBox } from './identify/found-box'
import type { WiringPlan } from './plan/plan-schema'
import { endOfJumper, oldTerminalWords } from './plan/connection-list'

/** A text as it stands in an SVG document. */
export const svgText = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`)

/**
 * A box on paper: its cables, each conductor with its letter and role, and where it goes by the plan. For the handover pack.
 * @returns an SVG document, 520 units wide
 */
export function boxDrawing(name: string, found: AsFoundBox, roles: Record<string, string>, plan: WiringPlan | null): string {
  const row = 22
  const goesTo = (letter: string): string => {
    const kept = plan?.kept.flatMap((one) =>
      Object.entries(one.terminals).flatMap(([key, letters]) =>
        letters?.includes(letter) ? [`${oldTerminalWords[key] ?? key} of old switch ${one.old}`] : [],
      ),
    )
    const places = plan?.devices.flatMap((device) =>
      Object.entries(device.terminals).flatMap(([key, letters]) =>
        letters.includes(letter)
          ? [`${plan.devices.length > 1 ? `gang ${device.gang} ` : ''}${terminalWords[key as keyof typeof terminalWords]}`]
          : [],
      ),
    )
    const splices = plan?.splices.map((splice) => splice.letters) ?? found.splices
    const splice = splices.find((letters) => letters.includes(letter))
    const parts = [
      splice ? `splice ${splice.join(' + ')}` : '',
      ...(places ?? []),
      ...(kept ?? []),
      plan?.capped.includes(letter) ? 'capped' : '',
    ]
    return parts.filter(Boolean).join(', then ')
  }
  const lines: string[] = []
  let y = 34
  for (const cable of found.cables) {
    const height = cable.cores.length * row + 8
    lines.push(`<rect x="10" y="${y}" width="120" height="${height}" fill="#ebe5d6" stroke="#1d2421"/>`)
    lines.push(`<text x="70" y="${y + height / 2 + 4}" font-size="10" text-anchor="middle">${svgText(cable.id)}</text>`)
    for (const [index, core] of cable.cores.entries()) {
      const at = y + 4 + index * row + row / 2
      const { fill, stripe = '#fff', dash } = insulation[core.colour as ConductorColour] ?? insulation.unknown
      lines.push(`<path d="M130 ${at}H330" stroke="#1d2421" stroke-width="7"/><path d="M130 ${at}H330" stroke="${fill}" stroke-width="5"/>`)
      if (dash) lines.push(`<path d="M130 ${at}H330" stroke="${stripe}" stroke-width="2" stroke-dasharray="${dash}"/>`)
      lines.push(
        `<rect x="180" y="${at - 8}" width="16" height="16" fill="#fff" stroke="#1d2421"/><text x="188" y="${at + 4}" font-size="10" text-anchor="middle">${svgText(core.letter)}</text>`,
      )
      if (roles[core.letter]) {
        const word = svgText(roles[core.letter]!)
        lines.push(
          `<rect x="206" y="${at - 7}" width="${word.length * 5.4 + 8}" height="14" fill="#fff"/><text x="210" y="${at + 4}" font-size="10">${word}</text>`,
        )
      }
      lines.push(`<text x="338" y="${at + 4}" font-size="10">${svgText(goesTo(core.letter))}</text>`)
    }
    y += height + 10
  }
  for (const jumper of plan?.jumpers ?? []) {
    const gangs = plan!.devices.length
    lines.push(
      `<text x="10" y="${y + 12}" font-size="10">${svgText(`Jumper: ${endOfJumper(jumper.from, gangs)} to ${endOfJumper(jumper.to, gangs)}`)}</text>`,
    )
    y += 16
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 520 ${y}"><text x="10" y="20" font-size="13">${svgText(name)}</text>${lines.join('')}</svg>`
}
