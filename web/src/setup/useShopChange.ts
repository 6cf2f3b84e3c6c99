/** Puts a change of the shop in force, with the reason it carries on the record. */
import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import { say } from '../ui/say.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import type { ShopParts } from '@cork-ember/core/contract/shopWords.ts';
import { ask, Refusal } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { useKeep } from './Held.tsx';
import { refreshShop, useShop } from '../api/queries.ts';

const STALE = 409;

/** The version the form began with: what another tablet saved since is not written over unseen. */
export function useShopChange(onDone?: () => void) {
  const [by] = usePerson();
  const keep = useKeep();
  const { data: shop } = useShop();
  const seen = useRef<number>(undefined);
  seen.current ??= shop?.version;
  return useMutation({
    mutationFn: (change: ShopParts & { readonly why: string }) => {
      if (by === '') throw new Error('Say who is at the bench first, at the top right.');
      return ask<Shop>('/api/shop/changes', { ...change, by, version: seen.current });
    },
    // Done once what it made is shown: what is changed next begins with that, and with its version.
    onSuccess: async () => {
      say('In force for new jobs.');
      await refreshShop();
      seen.current = undefined;
      keep(false);
      onDone?.();
    },
    onError: (error) => {
      if (!(error instanceof Refusal) || error.status !== STALE) return;
      // Told once; whoever saves again has been told.
      seen.current = undefined;
      void refreshShop();
    },
  });
}
