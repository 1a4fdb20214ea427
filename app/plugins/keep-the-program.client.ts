/// <reference types="vite-plugin-pwa/client" />
import { registerSW } from 'virtual:pwa-register'

/** The program is kept on devices of the crew, for cellars without a network. A customer’s page keeps nothing. */
export default defineNuxtPlugin(() => {
  if (!isCustomersPage(window.location.pathname)) registerSW({ immediate: true })
})
