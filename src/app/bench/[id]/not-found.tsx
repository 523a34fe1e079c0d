import Link from 'next/link';
import { say } from '@/core/words/say';

export default function NotFound() {
  return (
    <main className="board">
      <h1>{say`There is no such job on the board.`}</h1>
      <p>{say`It was deleted, or the address has a slip in it.`}</p>
      <Link href="/">{say`Back to the board`}</Link>
    </main>
  );
}
