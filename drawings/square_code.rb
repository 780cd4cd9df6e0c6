# frozen_string_literal: true

require "rqrcode"

module Vestry
  module Drawings
    # A text as a square code for a camera, with the quiet border that it needs.
    class SquareCode
      BORDER = 4

      # @param label [String] what it is, for those who do not see it
      def initialize(text, label:)
        @modules = RQRCode::QRCode.new(text, level: :m).modules
        @label = label
      end

      attr_reader :label

      def svg = Template.render("square_code", self)
      def side = @modules.size + 2 * BORDER

      def cells
        @modules.each_with_index.flat_map do |row, y|
          row.each_index.select { |x| row[x] }.map { |x| "M#{x + BORDER} #{y + BORDER}h1v1h-1z" }
        end.join
      end
    end
  end
end
