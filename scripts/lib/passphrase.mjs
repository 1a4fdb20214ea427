// The passphrase of the core, for scripts that run before anything is built.
import { createInterface } from 'node:readline/promises'
import { createJiti } from 'jiti'
import { Stop } from './host.mjs'

export const { newPassphrase, plainPassphrase } = await createJiti(import.meta.url).import('../../core/handover/passphrase.ts')

/**
 * From the environment, else from whoever sits there.
 * @param variable of the environment
 * @param of what it opens: the keys, the folder
 */
export async function askPassphrase(variable, of) {
  if (process.env[variable]) return process.env[variable]
  if (!process.stdin.isTTY) throw new Stop(`Say the passphrase of ${of} in ${variable}.`)
  const asked = createInterface({ input: process.stdin, output: process.stdout })
  const answer = await asked.question(`Passphrase of ${of}: `)
  asked.close()
  return answer
}
