import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { closeSync, existsSync, fsyncSync, openSync, readFileSync, renameSync, rmSync, writeSync } from 'node:fs'
import { fromJson, MemoryStorageDriver, toJson, type SupportedStorageTypes } from '@matter/general'

/** What a fabric keeps, as the library reads and writes it: by context and key. */
type Store = Record<string, Record<string, SupportedStorageTypes>>
const [ivBytes, tagBytes] = [12, 16]

/**
 * Everything one fabric keeps, in one file: AES-256-GCM, a new nonce with each writing; 12 bytes nonce, 16 bytes tag, then the rest.
 * The key comes from the office and is kept in memory only: a laptop that is stolen holds nothing that opens a home.
 */
export class SealedStorage extends MemoryStorageDriver {
  static override readonly id = 'sealed'
  private writing: NodeJS.Immediate | null = null

  private constructor(
    private file: string,
    private key: Buffer,
    store: Store,
  ) {
    super(store)
    this.initialize()
  }

  /** Opens what was kept. Throws where the key is another one or the file was changed. */
  static open(file: string, key: Buffer): SealedStorage {
    if (!existsSync(file)) return new SealedStorage(file, key, {})
    const bytes = readFileSync(file)
    const decipher = createDecipheriv('aes-256-gcm', key, bytes.subarray(0, ivBytes))
    decipher.setAuthTag(bytes.subarray(ivBytes, ivBytes + tagBytes))
    const text = Buffer.concat([decipher.update(bytes.subarray(ivBytes + tagBytes)), decipher.final()]).toString('utf8')
    return new SealedStorage(file, key, fromJson(text) as unknown as Store)
  }

  override set(contexts: string[], keyOrValues: string | Record<string, SupportedStorageTypes>, value?: SupportedStorageTypes): void {
    super.set(contexts, keyOrValues, value)
    this.writeSoon()
  }
  override delete(contexts: string[], key: string): void {
    super.delete(contexts, key)
    this.writeSoon()
  }
  override clearAll(contexts: string[]): void {
    super.clearAll(contexts)
    this.writeSoon()
  }
  override async close(): Promise<void> {
    if (this.writing) this.write()
    await super.close()
  }

  /** From now on it is sealed with another key, in another file. */
  reseal(file: string, key: Buffer): void {
    const before = this.file
    ;[this.file, this.key] = [file, key]
    this.write()
    rmSync(before, { force: true })
  }
  /** A device that was joined is written before anybody is told: what changes in one turn is one writing. */
  private writeSoon(): void {
    this.writing ??= setImmediate(() => this.write())
  }
  write(): void {
    if (this.writing) clearImmediate(this.writing)
    this.writing = null
    const iv = randomBytes(ivBytes)
    const cipher = createCipheriv('aes-256-gcm', this.key, iv)
    const sealed = Buffer.concat([cipher.update(toJson(this.store as unknown as SupportedStorageTypes), 'utf8'), cipher.final()])
    const file = openSync(`${this.file}.new`, 'w', 0o600)
    for (const part of [iv, cipher.getAuthTag(), sealed]) writeSync(file, part)
    fsyncSync(file)
    closeSync(file)
    renameSync(`${this.file}.new`, this.file)
  }
}
