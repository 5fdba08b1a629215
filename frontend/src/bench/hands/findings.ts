// A click on a finding at a strip's foot: it is chosen, and the sheet that would mend it opens.
import type { Finding } from '../../api/client'
import type { Hand } from './hand'

export function chooseFinding({ selection, worksheet, preview }: Hand, finding: Finding): void {
  selection.finding = finding
  if (!finding.mend) return
  if (finding.mend.verb !== 'fill gap') {
    preview.first = finding.mend // shown beside what the worksheet says, ready to be applied
    return
  }
  worksheet.embedding = 'fill'
  worksheet.verb = 'embed'
}
