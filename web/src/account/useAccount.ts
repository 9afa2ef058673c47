import { api, thrown } from '../queries/api'

export const useAccount = () => thrown(api.useQuery('get', '/api/account', {}))
