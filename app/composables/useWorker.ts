/** What a worker is asked, and answers. */
export interface WorkerTalk<Question, Answer> {
  question: Question
  answer: Answer
}

/**
 * Questions to a worker, as long as this page lives. The worker starts with the first one.
 * @param open makes the worker; its file has to be named there, so that the build finds it
 */
export function useWorker<Talk extends WorkerTalk<unknown, unknown>>(open: () => Worker) {
  let worker: Worker | null = null
  let asked = 0
  const waiting = new Map<number, { resolve: (answer: Talk['answer']) => void; reject: (reason: Error) => void }>()
  /** What is being computed is given up: nobody waits for it any more. */
  function giveUp() {
    worker?.terminate()
    worker = null
    waiting.clear()
  }
  function start(): Worker {
    const fresh = open()
    fresh.onmessage = ({ data }: MessageEvent<{ id: number; answer: Talk['answer'] }>) => {
      waiting.get(data.id)?.resolve(data.answer)
      waiting.delete(data.id)
    }
    // An error in it, or its file cannot be had: whoever waits is told, and the next question starts it anew.
    fresh.onerror = (event) => {
      event.preventDefault()
      const left = [...waiting.values()]
      giveUp()
      for (const { reject } of left) reject(new Error(event.message || 'The worker could not be started.'))
    }
    return fresh
  }
  /** @param question as it can be sent: nothing of it is watched by Vue */
  function ask(question: Talk['question']): Promise<Talk['answer']> {
    worker ??= start()
    const id = ++asked
    const answer = new Promise<Talk['answer']>((resolve, reject) => waiting.set(id, { resolve, reject }))
    worker.postMessage({ id, question })
    return answer
  }
  onScopeDispose(giveUp)
  return { ask, giveUp }
}

/**
 * A question that changes; the newest one's answer counts, and stays until there is a newer one.
 * @param options.cancels a newer question stops the one that is being answered
 */
export function useNewestAnswer<Talk extends WorkerTalk<unknown, unknown>>(open: () => Worker, options: { cancels?: boolean } = {}) {
  const { ask, giveUp } = useWorker<Talk>(open)
  const answer = shallowRef<Talk['answer'] | null>(null)
  const thinking = ref(false)
  const failed = ref(false)
  let newest = 0
  async function put(question: Talk['question']) {
    const mine = ++newest
    if (thinking.value && options.cancels) giveUp()
    thinking.value = true
    try {
      const given = await ask(question)
      if (mine !== newest) return
      answer.value = given
      failed.value = false
    } catch (error) {
      console.warn(error)
      if (mine === newest) failed.value = true
    }
    if (mine === newest) thinking.value = false
  }
  return { put, answer, thinking, failed }
}
