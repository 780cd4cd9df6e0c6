# frozen_string_literal: true

require "shrine"
require "shrine/storage/file_system"
require "vips"

module Vestry
  module Outside
    # Where photos are kept. Only what really is a picture is taken; it is turned upright, made
    # no larger than it need be, and stripped of everything but the picture, the place it was
    # taken among it.
    module PhotoStore
      LARGE = 2000
      SMALL = 480
      MOST_BYTES = 20 * 1024 * 1024
      MOST_PIXELS = 80_000_000
      LOADERS = %w[jpegload pngload webpload heifload].freeze

      # It is not a picture that can be kept, and why.
      class NotAPicture < StandardError; end

      Vips.block_untrusted(true) if Vips.respond_to?(:block_untrusted)

      class << self
        # @param file [IO] as uploaded
        # @return [Hash{String=>Hash}] where the large and the small picture lie
        # @raise [NotAPicture]
        def keep(file)
          bytes = file.read(MOST_BYTES + 1)
          raise NotAPicture, "is larger than #{MOST_BYTES / 1024 / 1024} MB" if bytes.bytesize > MOST_BYTES

          check(bytes)
          both("large" => shrunk(bytes, LARGE), "small" => shrunk(bytes, SMALL))
        end

        # Pictures that were kept before, byte for byte, once each is seen to be one.
        #
        # @param pictures [Hash{String=>String}] bytes by size
        # @raise [NotAPicture] then none of them is kept
        def take_back(pictures)
          pictures.each_value { |bytes| check(bytes) }
          both(pictures.transform_values { |bytes| StringIO.new(bytes) })
        end

        # @raise [NotAPicture]
        def check(bytes)
          image = Vips::Image.new_from_buffer(bytes, "")
          loader = image.get("vips-loader").sub(/_(buffer|source)\z/, "")
          raise NotAPicture, "is not a photo; JPEG, PNG and WebP are" unless LOADERS.include?(loader)
          raise NotAPicture, "has more points than can be kept" if image.width * image.height > MOST_PIXELS
        rescue Vips::Error
          raise NotAPicture, "is not a photo; JPEG, PNG and WebP are"
        end

        # @param image [Hash{String=>Hash}] as keep gave it
        def delete(image) = image.each_value { |data| uploader::UploadedFile.new(data).delete }

        def read(data) = uploader::UploadedFile.new(data).open(&:read)

        private

        # Both, or neither.
        def both(pictures)
          kept = {}
          pictures.each { |size, picture| kept[size] = upload(picture) }
          kept
        rescue SystemCallError => e
          delete(kept)
          raise NotAPicture, e.is_a?(Errno::ENOSPC) || e.is_a?(Errno::EDQUOT) ? "cannot be kept: there is no room left for photos here" : "cannot be kept here just now"
        end

        def shrunk(bytes, size)
          image = Vips::Image.thumbnail_buffer(bytes, size, size: :down)
          image = image.flatten(background: 255) if image.has_alpha?
          StringIO.new(image.write_to_buffer(".jpg[Q=84,strip]"))
        rescue Vips::Error
          raise NotAPicture, "cannot be read to its end"
        end

        def upload(picture) = uploader.new(:photos).upload(picture, metadata: { "mime_type" => "image/jpeg" }).data

        def uploader
          @uploader ||= begin
            Shrine.storages[:photos] = Shrine::Storage::FileSystem.new(File.join(Settings.var, "photos"))
            Class.new(Shrine)
          end
        end
      end
    end
  end
end
