# frozen_string_literal: true

require "shrine"
require "shrine/storage/file_system"

module Vestry
  module Outside
    # Where photos are kept. Only what really is a picture is taken; it is turned upright, made
    # no larger than it need be, and stripped of everything but the picture, the place it was
    # taken among it.
    module PhotoStore
      SIDES = { "large" => 2000, "small" => 480 }.freeze
      MOST_BYTES = 20 * 1024 * 1024

      # It is not a picture that can be kept, and why.
      class NotAPicture < StandardError; end

      class << self
        # @param file [IO] as uploaded
        # @return [Hash{String=>Hash}] where the large and the small picture lie
        # @raise [NotAPicture]
        def keep(file)
          bytes = file.read(MOST_BYTES + 1).to_s
          raise NotAPicture, "is larger than #{MOST_BYTES / 1024 / 1024} MB" if bytes.bytesize > MOST_BYTES

          both(PictureShrinker.call(bytes, SIDES))
        end

        # Pictures that were kept before, byte for byte but for what they carry beside the picture.
        #
        # @param pictures [Hash{String=>String}] bytes by size
        # @raise [NotAPicture] then none of them is kept
        def take_back(pictures) = both(pictures.to_h { |size, bytes| [size, check(bytes, SIDES.fetch(size)).stripped] })

        # @param side [Integer] the longest it may be
        # @return [Jpeg] as it may be kept
        # @raise [NotAPicture]
        def check(bytes, side)
          raise NotAPicture, "is larger than #{MOST_BYTES / 1024 / 1024} MB" if bytes.bytesize > MOST_BYTES

          picture = Jpeg.new(bytes)
          raise NotAPicture, "is not a whole JPEG" unless picture.whole?
          if [picture.width, picture.height].max > side
            raise NotAPicture, "measures #{picture.width} by #{picture.height}; #{side} is the longest a side can be"
          end

          picture
        end

        # @param image [Hash{String=>Hash}] as keep gave it
        def delete(image) = image.each_value { |data| uploader::UploadedFile.new(data).delete }

        # @return [Hash{String=>Time}] id of each picture there is, and when it was written
        def kept
          folder = Pathname(File.join(Settings.var, "photos"))
          folder.exist? ? folder.children.select(&:file?).to_h { |path| [path.basename.to_s, path.mtime] } : {}
        end

        def drop(id) = uploader && Shrine.storages[:photos].delete(id)

        def read(data) = uploader::UploadedFile.new(data).open(&:read)

        private

        # Both, or neither.
        def both(pictures)
          kept = {}
          pictures.each { |size, bytes| kept[size] = upload(StringIO.new(bytes)) }
          kept
        rescue SystemCallError => e
          delete(kept)
          raise NotAPicture, e.is_a?(Errno::ENOSPC) || e.is_a?(Errno::EDQUOT) ?
            "cannot be kept: there is no room left for photos here" : "cannot be kept here just now"
        end

        def upload(picture) = uploader.new(:photos).upload(picture, metadata: { "mime_type" => "image/jpeg" }).data

        def uploader
          folder = File.join(Settings.var, "photos")
          return @uploader if @folder == folder

          Shrine.storages[:photos] = Shrine::Storage::FileSystem.new(folder)
          @folder, @uploader = folder, Class.new(Shrine)
          @uploader
        end
      end
    end
  end
end
