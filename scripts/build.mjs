// npm run build: packages and the program itself, as npm start would make them; what is built for these sources already stays.
import { needBuild, needPackages, run, say } from './lib/host.mjs'

run(async () => {
  needPackages()
  await needBuild()
  say('Built.')
})
