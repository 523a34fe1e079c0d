import Link from 'next/link';
import { say } from '@/core/words/say';

export default function NotFound() {
  return (
    <main className="board">
      <h1>{say`There is nothing at this address.`}</h1>
      <p>
        <Link href="/">{say`Back to the board`}</Link>
      </p>
    </main>
  );
}
