import '@/bundles';
import '../../global.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { Slot } from '@/router';
import { SafeAreaProvider } from 'react-native-safe-area-context';
import { queryClient } from '@/data/queries';
import { Guard } from '@/ui/guard';

export default function RootLayout() {
  return (
    <SafeAreaProvider>
      <QueryClientProvider client={queryClient}>
        <Guard as="page">
          <Slot />
        </Guard>
      </QueryClientProvider>
    </SafeAreaProvider>
  );
}
