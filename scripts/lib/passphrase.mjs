// The passphrase of the core, for scripts that run before anything is built.
import { createJiti } from 'jiti'

export const { newPassphrase, plainPassphrase } = await createJiti(import.meta.url).import('../../core/handover/passphrase.ts')
