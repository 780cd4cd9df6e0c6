# frozen_string_literal: true

require "vips"

module Vestry
  module Outside
    # A stored photo, laid flat.
    module FlatPicture
      QUALITY = 82
      private_constant :QUALITY

      module_function

      # @param photo [Records::Photo]
      # @param view [Hash] see Core::Survey::FlatView
      # @return [String] a JPEG
      def of(photo, view)
        picture = Vips::Image.new_from_buffer(PhotoStore.read(photo.picture!("large")), "")
        picture.mapim(places(view[:size_px], *view[:map])).jpegsave_buffer(Q: QUALITY, strip: true)
      end

      # Where in the photo each point of the square lies: see Core::Survey::Projective#figures.
      def places(side, *map)
        x, y = Vips::Image.xyz(side, side).bandsplit
        right, down, far = map.push(1.0).each_slice(3).map { |times, more, off| x * times + y * more + off }
        (right / far).bandjoin(down / far)
      end
      private_class_method :places
    end
  end
end
