import { Link } from 'react-router';
import { Title } from './Title.tsx';

export function Lost() {
  return (
    <div className="p-8">
      <Title>Nothing lies here</Title>
      <p className="mt-2 text-soft">The address leads to no view, or the view could not be shown.</p>
      <Link
        to="/"
        reloadDocument
        className="mt-4 inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
      >
        Back to the bench
      </Link>
    </div>
  );
}
