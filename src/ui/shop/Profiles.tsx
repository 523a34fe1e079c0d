import { X } from 'lucide-react';
import { useRef } from 'react';
import { Button } from 'react-bootstrap';
import { SPACE_WORDS } from '@/core/colour/space';
import { useChangeProfiles, useProfiles } from '../data/queries';
import { FileInput } from '../parts/FileInput';
import { say } from '@/core/words/say';

/** The colour profiles that results can be converted to. */
export function Profiles() {
  const { data: profiles = [] } = useProfiles();
  const { add, remove } = useChangeProfiles();
  const input = useRef<HTMLInputElement>(null);
  return (
    <section aria-labelledby="shop-profiles">
      <h2 id="shop-profiles">{say`Colour profiles`}</h2>
      <ul className="shop-list">
        {profiles.map(({ digest, name, space, added }) => (
          <li key={digest}>
            <span>{name}</span>
            <span className="soft">{SPACE_WORDS[space]}</span>
            {added && (
              <Button
                variant="quiet"
                size="sm"
                aria-label={say`Take ${name} off the list`}
                onClick={() => remove.mutate(digest)}
              >
                <X size={14} aria-hidden />
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Button
        variant="quiet"
        size="sm"
        disabled={add.isPending}
        onClick={() => input.current?.click()}
      >
        {say`Add a profile …`}
      </Button>
      <FileInput
        input={input}
        label={say`A colour profile`}
        accept=".icc,.icm"
        onChoose={(file) => add.mutate(file)}
      />
      <p className="soft mt-2">
        {say`One that is taken off stays kept: what was made with it can be made again.`}
      </p>
    </section>
  );
}
