export { ChannelsProvider, useChannels, useWantedBy, type Channels } from './use-channels';
