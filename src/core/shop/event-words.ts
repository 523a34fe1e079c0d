import { formatNumber } from '../measure/format';
import type { ShopEvent } from './event';
import { say } from '../words/say';

/** What happened to a job, in a sentence. */
export function eventWords(event: ShopEvent): string {
  switch (event.kind) {
    case 'state':
      return say`From ${event.from} to ${event.to}`;
    case 'approved':
      return say`${event.trialName} approved by ${event.initials}: ${event.fileName}${quoted(event.note)}`;
    case 'approval withdrawn':
      return say`Approval taken back by ${event.initials}${quoted(event.note)}`;
    case 'sent': {
      const copies = event.copies > 1 ? say`, ${event.copies} times` : '';
      const unsigned = event.why === null ? '' : say` without approval: “${event.why}”`;
      const cautions = event.cautions.length > 0 ? ` (${event.cautions.join('; ')})` : '';
      return say`${event.fileName} sent to ${event.device} on ${event.material}${copies} by ${event.initials}${unsigned}${cautions}`;
    }
    case 'device stopped':
      return `${event.device}, ${event.fileName}: ${event.words}`;
    case 'printed': {
      const spoilt =
        event.spoilt > 0 ? say`; ${formatNumber(event.spoilt / 10, 1)} cm were spoilt` : '';
      return say`${event.fileName} printed by ${event.device}${spoilt}`;
    }
    case 'not printed':
      return say`${event.fileName} not printed by ${event.device}: ${event.words}`;
  }
}

const quoted = (note: string): string => (note ? `: “${note}”` : '');
