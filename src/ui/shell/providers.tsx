'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useAccount } from '../account/account';
import { StudyNews } from './study-news';
import { ThemeKeeper } from './theme';

export function Providers({ children }: { children: ReactNode }) {
  const account = useAccount();
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1 } } }),
  );
  return (
    <QueryClientProvider client={client}>
      <ThemeKeeper />
      {children}
      {account && <StudyNews />}
    </QueryClientProvider>
  );
}
