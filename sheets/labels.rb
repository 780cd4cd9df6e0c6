# frozen_string_literal: true

require "rqrcode"

module Vestry
  module Sheets
    # Labels on a sheet of so many: variety, method, day and tag, a code that leads to the limb, and the short text to
    # scratch into a metal tag. What is too long is set smaller, and never leaves its label.
    class Labels
      # How many lie across a sheet and down it.
      SHEETS = { "24" => [3, 8], "40" => [4, 10], "65" => [5, 13], "10" => [2, 5] }.freeze
      Label = Struct.new(:tag, :variety, :method, :day, :address, :scratch, :code, keyword_init: true)

      # @param labels [Array<Label>]
      # @param sheet [String] one of SHEETS
      def initialize(labels, size: "a4", sheet: "24")
        @labels = labels
        @size = size
        @across, @down = SHEETS.fetch(sheet, SHEETS["24"])
      end

      # What a metal tag has room for.
      def self.scratch(tag, variety, day)
        "#{tag.delete(' ')} #{variety.upcase.delete('^A-Z')[0, 6]} #{day.strftime('%-d.%-m.%y')}"
      end

      def pdf
        Paper.print(@size, title: "Labels", margin: 20) do |page|
          wide, high = page.bounds.width / @across, page.bounds.height / @down
          @labels.each_slice(@across * @down).with_index do |some, sheet|
            page.start_new_page if sheet.positive?
            some.each_with_index do |each, i|
              label(page, each, (i % @across) * wide, page.bounds.top - (i / @across) * high, wide, high)
            end
          end
          page.text("No label is wanted.") if @labels.empty?
        end
      end

      # A code drawn as squares, those side by side in one piece.
      #
      # @param at the upper left corner in points
      def self.code(page, text, x, y, size)
        modules = RQRCode::QRCode.new(text, level: :m).modules
        side = size / modules.size.to_f
        modules.each_with_index do |row, i|
          row.each_index.chunk_while { |one, other| row[one] == row[other] }.each do |run|
            next unless row[run.first]

            page.fill_rectangle([x + run.first * side, y - i * side], run.size * side, side)
          end
        end
      end

      private

      def label(page, label, x, y, wide, high)
        page.dash(2)
        page.stroke_rectangle([x, y], wide, high)
        page.undash
        side = [high - 16, wide * 0.38, 54].min
        self.class.code(page, label.address, x + wide - side - 8, y - 8, side)
        lines(page, label, x + 6, y - 5, wide - side - 20, high - 10)
      end

      # The variety in the upper part; below it what is read when it is held in the hand.
      def lines(page, label, x, y, wide, high)
        day = label.day.strftime("%-d %b %Y")
        parts = [[label.variety, 0.34, 12, :bold], ["#{label.tag}  #{day}", 0.24, 10, :normal],
                 [label.method, 0.21, 9, :normal], ["#{label.scratch}   #{label.code}", 0.21, 8, :normal]]
        parts.each do |text, share, size, style|
          page.text_box(text, at: [x, y], width: wide, height: high * share, size: size, style: style,
                              overflow: :shrink_to_fit, min_font_size: 3, valign: :center)
          y -= high * share
        end
      end
    end
  end
end
