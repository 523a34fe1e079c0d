import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="board">
      <h1>There is nothing at this address.</h1>
      <p>
        <Link href="/">Back to the board</Link>
      </p>
    </main>
  );
}
