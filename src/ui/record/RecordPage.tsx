import { format } from 'date-fns';
import Link from 'next/link';
import type { JobRecord, RecordSection } from '@/core/shop/record';
import { OrderAgainForm } from './OrderAgainForm';
import { say } from '@/core/words/say';

/** The record of a job: on the screen, on paper, and where it is ordered again. */
export function RecordPage({ record }: { record: JobRecord }) {
  const { jobId, number, title, customer, head, pieces, events, writtenBy } = record;
  return (
    <main className="record">
      <header>
        <div>
          <h1>
            <span className="figure">{number}</span> {title}
          </h1>
          <p className="soft">{customer || say`no customer`}</p>
        </div>
        <nav aria-label={say`Record`} className="no-print">
          <Link className="btn btn-quiet btn-sm" href={`/bench/${jobId}`}>
            {say`To the bench`}
          </Link>
          <a
            className="btn btn-quiet btn-sm"
            href={`/api/jobs/${jobId}/record/pdf`}
            target="_blank"
          >
            {say`As a PDF`}
          </a>
        </nav>
      </header>
      <OrderAgainForm jobId={jobId} />
      <Section section={{ title: say`Job`, rows: head }} Heading="h2" />
      {pieces.map(({ id, fileName, digest, page, sections }) => (
        <article key={id} aria-label={fileName}>
          <div className="piece-head">
            <h2>{fileName}</h2>
            <img src={`/api/originals/${digest}/pages/${page}/thumbnail`} alt="" />
          </div>
          {sections.map((section) => (
            <Section key={section.title} section={section} Heading="h3" />
          ))}
        </article>
      ))}
      <Section
        section={{
          title: say`What happened`,
          rows: events.map(({ at, words }) => ({
            label: format(at, 'd MMM yyyy HH:mm'),
            text: words,
          })),
        }}
        Heading="h2"
      />
      <footer className="soft">{writtenBy}</footer>
    </main>
  );
}

function Section({
  section: { title, rows },
  Heading,
}: {
  section: RecordSection;
  Heading: 'h2' | 'h3';
}) {
  if (rows.length === 0) return null;
  return (
    <section>
      <Heading className="section-title">{title}</Heading>
      <dl>
        {rows.map(({ label, text }, i) => (
          <div key={`${i} ${label}`}>
            <dt>{label}</dt>
            <dd>{text}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
