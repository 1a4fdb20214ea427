import { defineStore } from 'pinia'
import { vanOf } from '../../core/dispatch/board/twice'
import type { PersonRole } from '../../core/stream'
import type { ListedPart } from '../../core/fit/parts'
import { regionOf, type Region } from '../../core/units/region'
import type { BackupState, Branch, CatalogueModel, Instrument, PersonView, Restored, Tried, Viewer } from '../../core/protocol'

/** Kept on the device for a start without network. */
const lists = ['branches', 'people', 'instruments', 'catalogue', 'parts'] as const

/** Logged out here, and the server has not heard of it yet. */
export const logOutMark = 'circuitry-logged-out'

/** Who is logged in, and the lists of their company that every screen needs. */
export const useSession = defineStore('session', {
  state: () => ({
    viewer: null as Viewer | null,
    known: false,
    /** The session ended while somebody works: they log in again and go on. */
    expired: false,
    /** Started without network, from what this device keeps. */
    fromDevice: false,
    /** The record was put back from a backup a short while ago. */
    restored: null as Restored | null,
    /** The newest backup, for leads. */
    backup: null as BackupState | null,
    /** Wrong passwords and PINs that were tried for them within a day. */
    tried: null as Tried | null,
    /** What performance.now() said at the last answer of the server, ms. */
    answeredAt: 0,
    /** Server clock minus this device's clock, ms. */
    clockOffset: 0,
    branches: [] as Branch[],
    people: [] as PersonView[],
    instruments: [] as Instrument[],
    catalogue: [] as CatalogueModel[],
    /** Boxes, plates, connectors and lamps. */
    parts: [] as ListedPart[],
    /** The branch the office is looking at. */
    branchChoice: null as string | null,
  }),
  getters: {
    /** How times and numbers are written where the office is looking. */
    region(): Region {
      return regionOf(this.branch)
    },
    isOffice: (state) => state.viewer?.role === 'dispatcher' || state.viewer?.role === 'lead',
    branch: (state): Branch | null =>
      state.branches.find((branch) => branch.id === (state.branchChoice ?? state.viewer?.branchId)) ?? state.branches[0] ?? null,
  },
  actions: {
    hasRole(...roles: PersonRole[]) {
      return this.viewer !== null && roles.includes(this.viewer.role)
    },
    person(id: string): PersonView | undefined {
      return this.people.find((person) => person.id === id)
    },
    /** Of people who go together. */
    initials(ids: readonly string[]): string {
      return ids.map((id) => this.person(id)?.initials ?? '?').join(' · ')
    },
    /** Of the van that people go in together, or null. */
    vanNameOf(ids: readonly string[]): string | null {
      const vanId = vanOf(ids, this.people)
      return vanId ? this.vanName(vanId) : null
    },
    vanName(id: string): string | null {
      return this.people.find(({ vanId }) => vanId === id)?.vanName ?? null
    },
    /** Times of a branch, written as whoever reads is used to. */
    regionAt(branchId: string): Region {
      return { ...regionOf(this.branchOf(branchId)), locale: this.region.locale }
    },
    branchOf(id: string): Branch | undefined {
      return this.branches.find((branch) => branch.id === id)
    },
    /** Somebody logged out here while there was no network: done before anything else. @returns whether it is done */
    async finishLogOut(): Promise<boolean> {
      if (!localStorage.getItem(logOutMark)) return true
      const answer = await api('POST /api/auth/logout')
      if (answer.ok) localStorage.removeItem(logOutMark)
      return answer.ok
    },
    async check() {
      if (!(await this.finishLogOut())) {
        this.viewer = null
        this.known = true
        return
      }
      const answer = await api('GET /api/auth/me')
      if (answer.ok) {
        const personId = answer.value.viewer?.personId ?? null
        await leftBefore(personId)
        if (personId) await openDrafts(personId)
        this.viewer = answer.value.viewer
        this.restored = answer.value.restored
        this.tried = answer.value.tried
        this.backup = answer.value.backup
        this.clockOffset = Date.parse(answer.value.now) - Date.now()
        this.answeredAt = performance.now()
        this.fromDevice = false
        this.expired = false
        if (this.viewer) await this.loadLists()
        // What nobody will ever send does not stay for whoever holds the phone next.
        void forgetPeople(this.people.filter(({ active }) => !active).map(({ id }) => id))
        void keepValue('viewer', this.viewer)
        // Before the network goes: what is kept then is sealed from the first moment.
        if (personId) void ownKey(personId)
      } else if (answer.problem.status === 0 && !this.viewer) {
        // No network: this device goes on as whoever was logged in here last. Nothing is granted on it.
        this.viewer = await keptValue<Viewer>('viewer')
        this.fromDevice = this.viewer !== null
        if (this.viewer) for (const list of lists) this[list] = (await keptValue<never[]>(`${this.viewer.personId} ${list}`)) ?? []
      }
      this.known = true
    },
    /** The live connection is gone: is it the network, or has the session ended? */
    async probe() {
      const answer = await api('GET /api/auth/me')
      if (answer.ok && !answer.value.viewer && this.viewer && !this.fromDevice) this.expired = true
      if (answer.ok && answer.value.viewer) {
        this.restored = answer.value.restored
        this.tried = answer.value.tried
        this.backup = answer.value.backup
      }
    },
    async loadLists() {
      await Promise.all(lists.map((list) => this.load(list)))
    },
    async load(list: (typeof lists)[number]) {
      const answer = await api(`GET /api/${list}`)
      if (!answer.ok) return
      Object.assign(this, answer.value)
      if (this.viewer) void keepValue(`${this.viewer.personId} ${list}`, this[list])
    },
    async logIn(login: string, password: string, code = '') {
      const answer = await api('POST /api/auth/login', { body: { login, password, code } })
      // Whoever was here before is logged out by it, too.
      if (answer.ok) localStorage.removeItem(logOutMark)
      if (answer.ok) await this.check()
      return answer
    },
    async logOut() {
      const personId = this.viewer?.personId ?? ''
      await sealWork(personId)
      localStorage.setItem(logOutMark, '1')
      await this.finishLogOut()
      await forgetWork(personId)
      // A full load drops everything the last person saw from this device's memory.
      window.location.assign('/login')
    },
  },
})
