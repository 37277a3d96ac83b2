export { ChannelsProvider, useChannels, useWantedBy } from './use-channels';
