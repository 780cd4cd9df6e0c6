# frozen_string_literal: true

module Vestry
  module Sheets
    # The drawing of a tree on paper: that of its page, without what only those who work on it want.
    module TreePicture
      module_function

      # @param at [Array(Float, Float)] the upper left corner
      # @return [Float] how high it came out
      def draw(page, tree, stands, at:, wide:, high:)
        drawing = Drawings::Elevation.plain(tree, stands)
        scale = [wide / drawing.width.to_f, high / drawing.height.to_f].min
        page.svg(Drawings::SvgFile.for_paper(drawing.svg), at: at, width: drawing.width * scale,
                 height: drawing.height * scale, enable_web_requests: false)
        drawing.height * scale
      end
    end
  end
end
