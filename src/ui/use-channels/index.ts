export { ChannelsProvider, useChannels, type Channels } from './use-channels';
