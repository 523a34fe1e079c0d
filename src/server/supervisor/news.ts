import type { HouseNews } from '@/core/shop/house';

// Next loads route handlers in separate bundles; they share what was told through this process.
const shared = globalThis as { lontanoNews?: HouseNews };

/** The last news of the supervisor, or null where there is none (as in development). */
export const lastNews = (): HouseNews | null => shared.lontanoNews ?? null;

export const keepNews = (news: HouseNews): void => void (shared.lontanoNews = news);
