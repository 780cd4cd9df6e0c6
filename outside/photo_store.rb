# frozen_string_literal: true

require "fileutils"
require "shrine"

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
      # Where pictures lie cannot be reached just now.
      class Away < StandardError; end

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
        def kept = reaching { place.kept }

        def drop(id) = reaching { place.delete(id) }

        # @raise [Records::Missing] where it is not there
        # @raise [Away]
        def read(data) = reaching { uploader::UploadedFile.new(data).open(&:read) }

        # @return [String, nil] what is wrong with the place where pictures lie
        def trouble = place.trouble

        # Every picture as a file of a folder, for a backup; and back.
        def copy_out(folder)
          FileUtils.mkdir_p(folder)
          reaching { place.kept.each_key { |id| File.binwrite(File.join(folder, id), place.open(id).read) } }
        end

        def copy_in(folder)
          reaching do
            Dir.children(folder).each { |id| File.open(File.join(folder, id), "rb") { |file| place.upload(file, id) } }
          end
        end

        private

        def reaching
          yield
        rescue Shrine::FileNotFound
          raise Records::Missing
        rescue *PhotoPlace.away => e
          raise Away, e.message
        end

        # Both, or neither.
        def both(pictures)
          kept = {}
          pictures.each { |size, bytes| kept[size] = upload(StringIO.new(bytes)) }
          kept
        rescue SystemCallError, *PhotoPlace.away => e
          given_up(kept)
          raise NotAPicture, NO_ROOM.include?(e.class) ? "cannot be kept: there is no room left for photos here" :
            "cannot be kept here just now"
        end
        NO_ROOM = [Errno::ENOSPC, Errno::EDQUOT].freeze

        # What was half kept; where it cannot be taken away either, it is thrown away later, as no photo points at it.
        def given_up(kept)
          delete(kept)
        rescue SystemCallError, *PhotoPlace.away
          nil
        end

        def upload(picture) = uploader.new(:photos).upload(picture, metadata: { "mime_type" => "image/jpeg" }).data

        def uploader = place && @uploader

        def place
          setting, folder = Settings.photos, File.join(Settings.var, "photos")
          return Shrine.storages[:photos] if @named == [setting, folder]

          Shrine.storages[:photos] = PhotoPlace.for(setting, folder)
          @named, @uploader = [setting, folder], Class.new(Shrine)
          Shrine.storages[:photos]
        end
      end
    end
  end
end
