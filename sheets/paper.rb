# frozen_string_literal: true

require "prawn"
require "prawn-svg"

module Vestry
  module Sheets
    # A sheet of paper: black on white, in the type the application ships with.
    class Paper
      SIZES = { "a4" => "A4", "letter" => "LETTER" }.freeze
      TYPE = File.join(ROOT, "web/public/type")
      # Chinese, Japanese and Korean letters: Debian's, for they are as large as all else together.
      FAR = "/usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf"
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
        document.font_families.update("Far" => { normal: FAR, bold: FAR })
        # Signs that the first has not are set in the second, which knows far more scripts, and then in the last.
        document.fallback_fonts(["Wide", *("Far" if File.exist?(FAR))])
        document.font("Sans")
        document.font_size(10)
        yield document
        document.render
      end
    end
  end
end
