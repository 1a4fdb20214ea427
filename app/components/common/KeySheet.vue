<script setup lang="ts">
const open = defineModel<boolean>('open', { required: true })
const { t } = useTrade()
</script>

<template>
  <UModal v-model:open="open" title="Keys and help" description="Keys work when you are not typing.">
    <template #body>
      <table class="plain">
        <tbody>
          <tr v-for="line in shortcutList" :key="line.keys">
            <td class="mono w-28">{{ line.keys }}</td>
            <td>{{ line.what }}</td>
          </tr>
        </tbody>
      </table>
      <h3 class="kicker mt-5 mb-1">If something is wrong with the power</h3>
      <ol class="list-decimal ps-5 stack">
        <li>Stop. Hands off, step back. Say it out loud so that everyone hears.</li>
        <li>
          {{
            t('Somebody in contact with a live part: do not touch them. Open the {breaker} or the {main}, then call the emergency number.')
          }}
        </li>
        <li>Report what you saw on the circuit’s tile. A fact is always recorded, from anyone.</li>
      </ol>
      <p class="soft small mt-4">
        This record supports locks, tags and testers. It never replaces them. Local code and the licensed person decide.
      </p>
    </template>
  </UModal>
</template>
