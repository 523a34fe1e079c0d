import type { ProcessNews } from '@/core/shop/processes';

// Next loads route handlers in separate bundles; they share what was told through this process.
const shared = globalThis as { lontanoNews?: ProcessNews };

/** The last news of the supervisor, or null where there is none (as in development). */
export const lastNews = (): ProcessNews | null => shared.lontanoNews ?? null;

export const keepNews = (news: ProcessNews): void => void (shared.lontanoNews = news);
