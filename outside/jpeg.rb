# frozen_string_literal: true

module Vestry
  module Outside
    # Reads the frame of a JPEG without decoding its picture: its size, whether it is whole, and what it carries beside
    # the picture. After ITU-T T.81, annex B: segments marked FF xx, each with its length, up to the scan, and FF D9 at
    # the end.
    class Jpeg
      START = "\xFF\xD8".b
      FINISH = "\xFF\xD9".b
      # Frames of a picture that is decoded in the usual way; C4, C8 and CC mark other things.
      FRAMES = [*0xC0..0xC3, *0xC5..0xC7, *0xC9..0xCB, *0xCD..0xCF].freeze
      SCAN = 0xDA
      # What tells of the camera, the place and the person (application data but the first, and comments).
      BESIDE = [*0xE1..0xED, 0xEF, 0xFE].freeze

      attr_reader :width, :height

      # @param bytes [String]
      def initialize(bytes)
        @bytes = bytes.b
        @kept = [START]
        read
      end

      # Whether it begins, has a size, and ends as it should.
      def whole?
        !!(@scan && width.to_i.positive? && height.to_i.positive? && @bytes.byteslice(-64..).to_s.include?(FINISH))
      end
      def pixels = width.to_i * height.to_i

      # The same picture, byte for byte, without what it carries beside.
      def stripped = whole? ? @kept.join + @bytes.byteslice(@scan..) : @bytes

      private

      def read
        return unless @bytes.start_with?(START)

        at = 2
        at = segment(at) while at && at + 4 <= @bytes.bytesize && @scan.nil?
      end

      # @return [Integer, nil] where the next one begins
      def segment(at)
        return nil unless @bytes.getbyte(at) == 0xFF

        mark = @bytes.getbyte(at + 1)
        return at + 1 if mark == 0xFF
        return @scan = at if mark == SCAN

        length = @bytes.byteslice(at + 2, 2).unpack1("n")
        return nil if length < 2

        measure(at) if FRAMES.include?(mark)
        @kept << @bytes.byteslice(at, length + 2) unless BESIDE.include?(mark)
        at + 2 + length
      end

      def measure(at)
        @height, @width = @bytes.byteslice(at + 5, 4).to_s.unpack("nn")
      end
    end
  end
end
