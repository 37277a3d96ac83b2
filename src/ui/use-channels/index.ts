export { ChannelsProvider, useChannels, type Channels, useWantedBy } from './use-channels';
