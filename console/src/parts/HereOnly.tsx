/** That an address was handed out which leads every other machine to itself. */
export const HereOnly = ({ is }: { is: boolean }) =>
  is && (
    <p className="small">
      <span className="verdict remark">!</span> This address opens on the service’s own machine alone. Open
      the console by the name that the network knows, or start the service with{' '}
      <span className="mono">--shop:url</span>.
    </p>
  )
