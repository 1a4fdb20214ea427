<script setup lang="ts">
/** What a person does now and then: settings, theme, help, log out. */
defineEmits<{ help: []; logins: [] }>()
const open = defineModel<boolean>('open', { required: true })
const session = useSession()
const color = useColorMode()
</script>

<template>
  <UDropdownMenu
    v-model:open="open"
    :items="[
      [{ label: session.viewer?.name ?? '', type: 'label' as const }],
      [
        { label: 'Settings', icon: 'i-lucide-sliders-horizontal', to: '/settings' },
        {
          label: color.value === 'dark' ? 'Light theme' : 'Dark theme',
          icon: 'i-lucide-contrast',
          onSelect: () => (color.preference = color.value === 'dark' ? 'light' : 'dark'),
        },
        { label: 'Keys and help', icon: 'i-lucide-circle-help', onSelect: () => $emit('help') },
        { label: 'Logins and password', icon: 'i-lucide-key-round', onSelect: () => $emit('logins') },
        { label: 'Log out', icon: 'i-lucide-log-out', onSelect: () => void session.logOut() },
      ],
    ]"
    ><CommonWhoButton
  /></UDropdownMenu>
</template>
