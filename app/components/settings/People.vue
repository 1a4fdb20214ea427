<script setup lang="ts">
import { personRoles, type PersonRole } from '../../../core/stream'
import type { BodyOf, PersonView } from '../../../core/protocol'
import { addPerson, changePerson } from '../../../core/protocol/people'

const session = useSession()
const mayEdit = computed(() => session.hasRole('lead'))
const editing = ref<PersonView | 'new' | null>(null)
const blank = () => ({
  branchId: session.branch?.id ?? '',
  login: '',
  name: '',
  initials: '',
  role: 'technician' as PersonRole,
  licensed: false,
  vanId: null as string | null,
  skills: [] as string[],
  password: '',
  active: true,
  factorLost: false,
})
const form = ref(blank())
const roles = personRoles.map((value) => ({ label: value, value }))
const branches = computed(() => session.branches.map((branch) => ({ label: branch.name, value: branch.id })))
function edit(person: PersonView | 'new') {
  editing.value = person
  form.value = person === 'new' ? blank() : { ...person, password: '', factorLost: false }
}
const { answer: places } = useList('GET /api/stock', () => ({ query: { branchId: form.value.branchId } }), ['stock'])
const vans = computed(() => (places.value?.places ?? []).filter(({ kind, active }) => kind === 'van' && active))
const noVan = 'none'
const van = computed({
  get: () => (vans.value.some(({ id }) => id === form.value.vanId) ? form.value.vanId! : noVan),
  set: (id) => (form.value.vanId = id === noVan ? null : id),
})
const vanItems = computed(() => [{ value: noVan, label: 'none' }, ...vans.value.map(({ id, name }) => ({ value: id, label: name }))])
const skills = computed(() => skillItems(session.branchOf(form.value.branchId)?.settings.day.skills, form.value.skills))
/** A password that is not typed is no change. */
const body = computed(() => {
  const { branchId, login, name, initials, role, licensed, vanId, skills, password, active, factorLost } = form.value
  // A van of another branch stays there.
  const own = vans.value.some(({ id }) => id === vanId) || !places.value ? vanId : null
  const person = { branchId, login, name, initials, role, licensed, skills, vanId: own }
  return editing.value === 'new'
    ? { ...person, password }
    : { ...person, active, ...(password ? { password } : {}), ...(factorLost ? { hasFactor: false as const } : {}) }
})
async function saved() {
  editing.value = null
  await session.load('people')
}
const add = (body: BodyOf<typeof addPerson>) => api('POST /api/people', { body })
const change = (body: BodyOf<typeof changePerson>) =>
  api('PATCH /api/people/:id', { params: { id: (editing.value as PersonView).id }, body })
const sheet = computed(() =>
  editing.value === 'new' ? { schema: addPerson.body, send: add } : { schema: changePerson.body, send: change },
)
</script>

<template>
  <div>
    <table class="plain">
      <thead>
        <tr>
          <th>Name</th>
          <th>Role</th>
          <th>Branch</th>
          <th>Login</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="person in session.people" :key="person.id" :class="{ soft: !person.active }">
          <td>
            <span class="who me-2">{{ person.initials }}</span>{{ person.name }}{{ person.active ? '' : ' (closed)' }}
          </td>
          <td>
            {{ person.role }}{{ person.licensed ? ', licensed' : '' }}
            <span v-if="person.skills.length || person.vanName" class="soft small"
              ><br />{{ [...person.skills, ...(person.vanName ? [person.vanName] : [])].join(', ') }}</span
            >
          </td>
          <td>{{ session.branchOf(person.branchId)?.name }}</td>
          <td class="mono">{{ person.login }}</td>
          <td>
            <UButton v-if="mayEdit" variant="link" class="p-0" :aria-label="`Change ${person.name}`" @click="edit(person)">change</UButton>
          </td>
        </tr>
      </tbody>
    </table>
    <UButton v-if="mayEdit" icon="i-lucide-plus" class="mt-4" @click="edit('new')">Person</UButton>
    <p v-else class="soft mt-4">A lead adds and changes people.</p>
    <USlideover
      :open="editing !== null"
      :title="editing === 'new' ? 'A new person' : `Change ${form.name}`"
      description="A new password, role or branch ends their sessions."
      @update:open="editing = null"
    >
      <template #body>
        <CommonContractForm :schema="sheet.schema as never" :send="sheet.send as never" :body="body" @saved="saved">
          <UFormField label="Name" name="name"><UInput v-model="form.name" name="name" /></UFormField>
          <UFormField label="Initials on tags" name="initials"><UInput v-model="form.initials" name="initials" maxlength="3" /></UFormField>
          <UFormField label="Role" name="role"><USelect v-model="form.role" name="role" :items="roles" class="w-full" /></UFormField>
          <UFormField label="Branch" name="branchId"
            ><USelect v-model="form.branchId" name="branchId" :items="branches" class="w-full"
          /></UFormField>
          <UCheckbox
            v-model="form.licensed"
            label="Holds the licence the local code asks for"
            description="Without it a proof needs a licensed witness."
          />
          <UFormField label="Van they drive" name="vanId" help="No van is booked to two homes at once; its parts count as on board."
            ><USelect v-model="van" name="vanId" :items="vanItems" class="w-full"
          /></UFormField>
          <div v-if="skills.length">
            <p class="font-semibold mb-1">Can do</p>
            <CommonToggles spoken="Can do" :items="skills" :chosen="form.skills" @choose="form.skills = toggled(form.skills, $event)" />
          </div>
          <UFormField label="Login" name="login"
            ><UInput v-model="form.login" name="login" autocapitalize="none" autocomplete="off"
          /></UFormField>
          <UFormField :label="editing === 'new' ? 'Password' : 'New password, or leave empty'" name="password"
            ><UInput v-model="form.password" name="password" type="password" autocomplete="new-password"
          /></UFormField>
          <UCheckbox v-if="editing !== 'new'" v-model="form.active" label="May log in" />
          <UCheckbox
            v-if="editing !== 'new' && (editing as PersonView).hasFactor"
            v-model="form.factorLost"
            label="Their second factor is lost"
            description="They log in without a code then. Make sure that it is they who ask."
          />
        </CommonContractForm>
      </template>
    </USlideover>
  </div>
</template>
