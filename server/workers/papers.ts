import { answerParent } from './answer-parent'
import { renderDrawings, renderPaper, type Printing } from './render-paper'

/** A thread that lays papers out: the server answers everybody else meanwhile. */
answerParent((what: Printing) =>
  what.kind === 'paper' ? renderPaper(what.paper) : renderDrawings(what.title, what.schemeId, what.svgs, what.widthMm),
)
