/** What one tab tells this browser's others of a preset: that it stored it, or put it into the bin. */
export type TabNews = { readonly id: string; readonly revision: number } | { readonly id: string; readonly gone: true }

const channel = new BroadcastChannel('fulgor.presets')

export const tellTabs = (news: TabNews): void => channel.postMessage(news)

export function hearTabs(hear: (news: TabNews) => void): void {
  channel.onmessage = ({ data }: MessageEvent<TabNews>) => hear(data)
}
