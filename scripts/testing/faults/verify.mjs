// What has to hold in the tables after every fault, whoever was killed.

/**
 * @param connection mysql2 connection to the database
 * @param answered [{ outcome, envelope }] everything a phone was told
 * @returns { survived, lost, wrong } wrong: sentences about what does not fit
 */
export async function verify(connection, answered) {
  const wrong = []
  const lost = new Set()
  const query = async (sql, values = []) => (await connection.query(sql, values))[0]
  const ids = answered.map(({ outcome }) => outcome.commandId)
  const rows = new Map()
  const events = new Map()
  for (let from = 0; from < ids.length; from += 500) {
    const part = ids.slice(from, from + 500)
    for (const row of await query('SELECT id, outcome FROM commands WHERE id IN (?)', [part])) rows.set(row.id, row.outcome)
    for (const row of await query('SELECT command_id AS id, COUNT(*) AS n FROM events WHERE command_id IN (?) GROUP BY command_id', [part]))
      events.set(row.id, Number(row.n))
  }
  for (const { outcome } of answered) {
    const id = outcome.commandId
    const stored = rows.get(id)
    if (!stored) lost.add(id)
    else if (JSON.stringify(JSON.parse(stored)) !== JSON.stringify(outcome))
      wrong.push(`${id}: told ${JSON.stringify(outcome)}, stored ${stored}`)
    const entries = events.get(id) ?? 0
    const due = outcome.status === 'accepted' ? outcome.eventTypes.length : 0
    if (entries < due) lost.add(id)
    // A job command may also write to its site.
    if (outcome.status === 'refused' && entries > 0) wrong.push(`${id}: refused, and yet ${entries} entries`)
    if (outcome.stream === 'site' && entries > due) wrong.push(`${id}: ${entries} entries instead of ${due}`)
  }
  for (const row of await query(
    'SELECT s.id, s.seq, COUNT(e.seq) AS n, MIN(e.seq) AS low, MAX(e.seq) AS high FROM streams s JOIN events e ON e.stream_id = s.id GROUP BY s.id, s.seq',
  ))
    if (Number(row.n) !== row.seq || row.low !== 1 || row.high !== row.seq)
      wrong.push(`stream ${row.id} says ${row.seq} and holds ${row.n} entries, ${row.low} to ${row.high}`)
  for (const row of await query(
    'SELECT f.company_id AS id, f.seq, COUNT(e.seq) AS n, MAX(e.seq) AS high FROM feeds f JOIN feed_entries e ON e.company_id = f.company_id GROUP BY f.company_id, f.seq',
  ))
    if (Number(row.n) !== Number(row.seq) || Number(row.high) !== Number(row.seq))
      wrong.push(`feed of ${row.id}: ${row.n} of ${row.seq} entries`)
  const [{ n: halves }] = await query('SELECT COUNT(*) AS n FROM events e LEFT JOIN commands c ON c.id = e.command_id WHERE c.id IS NULL')
  if (Number(halves) > 0) wrong.push(`${halves} entries without the command that made them`)
  return { survived: answered.length - lost.size, lost: lost.size, wrong }
}

/** Newest seq of streams. */
export async function seqsOf(connection, ids) {
  const [rows] = await connection.query('SELECT id, seq FROM streams WHERE id IN (?)', [ids])
  return new Map(rows.map((row) => [row.id, row.seq]))
}
