// npm run bench:triage: how long the next question of a call takes to be found, with sixty causes, from the first word to the last answer.
import { say } from '../lib/host.mjs'
import { bundled } from './bundled.mjs'
import { baseline, timed } from './timed.mjs'

const { causes, nothingTaught, numbersOf, questions, symptoms, triage } = await bundled('triage', "export * from './core/triage'")
const [wanted, manyCauses] = [50, 60]
/** As many as a company may come to: the listed ones, and own ones that crews have met. */
const own = Array.from({ length: manyCauses - causes.length }, (_, at) => ({
  id: `own:${at}`,
  kind: 'device',
  words: `found on site ${at}`,
}))
const taught = { ...nothingTaught(), own }
const numbers = numbersOf(taught)
if (numbers.causes.length !== manyCauses) throw new Error(`${numbers.causes.length} causes, not ${manyCauses}.`)

let worst = 0
for (const symptom of symptoms) {
  let said = { symptoms: [symptom], answers: [], tried: [] }
  for (;;) {
    worst = Math.max(
      worst,
      timed(() => triage(numbers, [], said)),
    )
    const { next } = triage(numbers, [], said)
    if (next.kind !== 'ask') break
    const { id } = next.asked.question
    // The usual answer, and at the second asking the same.
    const { usual } = questions.find((one) => one.id === id)
    const answer = usual.indexOf(Math.max(...usual))
    const others = said.answers.filter(({ question }) => question !== id)
    said = { ...said, answers: [...others, { question: id, answer, ...(next.asked.again && { again: answer }) }] }
  }
}
const learning = timed(() => numbersOf(taught))
say(
  `${worst <= wanted ? 'ok  ' : 'MISS'} the next question, ${manyCauses} causes, ${symptoms.length} calls: ${worst.toFixed(1)} ms at most (wanted ${wanted}; ${(worst / baseline).toFixed(1)} × the baseline of ${baseline.toFixed(0)} ms), once for the company ${learning.toFixed(1)} ms`,
)
