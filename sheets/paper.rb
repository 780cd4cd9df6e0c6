# frozen_string_literal: true

require "prawn"
require "prawn-svg"

module Vestry
  module Sheets
    # A sheet of paper: black on white, in the type the application ships with.
    class Paper
      SIZES = { "a4" => "A4", "letter" => "LETTER" }.freeze
      TYPE = File.join(ROOT, "web/public/type")
      MARGIN = 40

      # @param size [String] a4 or letter
      # @return [String] the PDF
      def self.print(size, title:, margin: MARGIN)
        document = Prawn::Document.new(page_size: SIZES.fetch(size, "A4"), margin: margin,
                                       info: { Title: title, Creator: "Vestry" })
        document.font_families.update("Sans" => { normal: File.join(TYPE, "SourceSans3_400Regular.ttf"),
                                                  bold: File.join(TYPE, "SourceSans3_600SemiBold.ttf") })
        document.font_families.update("Wide" => { normal: File.join(TYPE, "DejaVuSans.ttf"),
                                                  bold: File.join(TYPE, "DejaVuSans-Bold.ttf") })
        # Signs that the first has not are set in the second, which knows far more scripts.
        document.fallback_fonts(["Wide"])
        document.font("Sans")
        document.font_size(10)
        yield document
        document.render
      end
    end
  end
end
