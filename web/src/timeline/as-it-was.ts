import type { Shot } from '@varrup/core';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { linked } from '../shot/linked.ts';
import { useShot } from '../shot/shot-store.ts';
import { useCurveView } from '../view/curve-view.ts';

/** The shot that the curves are compared with; null while they are compared with none. */
export function useAsItWas(): Shot | null {
  const asItWas = useCurveView((s) => s.asItWas);
  const opened = useShot((s) => s.opened);
  const id = useShot((s) => s.shot?.id);
  const [version, setVersion] = useState<{ id: string; shot: Shot } | null>(null);
  useEffect(() => {
    if (asItWas?.from !== 'version' || !id) return;
    let wanted = true;
    api
      .version(id, asItWas.id)
      .then(linked)
      .then((shot) => wanted && setVersion({ id: asItWas.id, shot }))
      .catch((error: Error) => {
        toast.error(`The version “${asItWas.name}” could not be read. ${error.message}`);
        useCurveView.setState({ asItWas: null });
      });
    return () => {
      wanted = false;
    };
  }, [asItWas, id]);
  if (asItWas?.from === 'opened') return opened;
  return asItWas?.from === 'version' && version?.id === asItWas.id ? version.shot : null;
}
