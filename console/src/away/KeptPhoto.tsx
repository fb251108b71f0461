/** A photo that was taken here and is not sent yet. */
export const KeptPhoto = ({ photo }: { photo: Blob }) => (
  <figure className="kept-photo">
    <img
      alt="Photo, on its way"
      ref={(img) => {
        if (!img) return
        img.src = URL.createObjectURL(photo)
        return () => URL.revokeObjectURL(img.src)
      }}
    />
  </figure>
)
