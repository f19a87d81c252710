/** The live line: the server says which topics have changed, and what is shown of them is asked for anew. */
import type { HubConnection } from '@microsoft/signalr';
import type { QueryClient } from '@tanstack/svelte-query';

/** Acts whose answers this page puts in place by itself: what a sheet is told of them is not asked for again. */
export const inPlace = new Set<string>();

/** What is to be asked for anew: of a sheet nothing where all that changed it was placed here. */
export function toRefresh(change: { topics: string[]; acts: string[] }): string[] {
  const own = change.acts.length > 0 && change.acts.every((id) => inPlace.delete(id));
  return own ? change.topics.filter((topic) => !topic.startsWith('inspection:')) : change.topics;
}

export function listen(client: QueryClient, site: string): () => void {
  let line: HubConnection | undefined;
  let stopped = false;
  const refresh = (topics: string[]) =>
    client.invalidateQueries({ predicate: (query) => query.queryKey.some((part) => topics.includes(String(part))) });
  const join = async () => {
    if (line?.state === 'Connected') await line.invoke('Join', site);
    await client.invalidateQueries();
  };
  /** The page is up before the line is: what it needs for that is fetched behind it. */
  const connect = async () => {
    const { HubConnectionBuilder, LogLevel } = await import('@microsoft/signalr');
    const made = new HubConnectionBuilder()
      .withUrl('/live')
      .withAutomaticReconnect([0, 500, 1000, 2000, 5000, 10000])
      .configureLogging(LogLevel.Error)
      .build();
    made.on('changed', (change: { topics: string[]; acts: string[] }) => void refresh(toRefresh(change)));
    made.onreconnected(join);
    return made;
  };
  // The first start is tried again by hand; from then on the line reconnects by itself.
  const start = async (): Promise<void> => {
    try {
      line ??= await connect();
      if (stopped) return;
      await line.start();
      await join();
    } catch {
      if (!stopped) setTimeout(start, 2000);
    }
  };
  void start();
  return () => {
    stopped = true;
    void line?.stop();
  };
}
