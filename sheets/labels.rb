# frozen_string_literal: true

require "rqrcode"

module Vestry
  module Sheets
    # Labels, three across and eight down: variety, method, day and tag, a code that leads to the limb,
    # and the short text to scratch into a metal tag.
    class Labels
      ACROSS = 3
      DOWN = 8
      Label = Struct.new(:tag, :variety, :method, :day, :address, :scratch, :code, keyword_init: true)

      # @param labels [Array<Label>]
      def initialize(labels, size: "a4")
        @labels = labels
        @size = size
      end

      # What a metal tag has room for.
      def self.scratch(tag, variety, day)
        "#{tag.delete(' ')} #{variety.upcase.delete('^A-Z')[0, 6]} #{day.strftime('%-d.%-m.%y')}"
      end

      def pdf
        Paper.print(@size, title: "Labels", margin: 20) do |page|
          wide, high = page.bounds.width / ACROSS, page.bounds.height / DOWN
          @labels.each_slice(ACROSS * DOWN).with_index do |some, sheet|
            page.start_new_page if sheet.positive?
            some.each_with_index do |each, i|
              label(page, each, (i % ACROSS) * wide, page.bounds.top - (i / ACROSS) * high, wide, high)
            end
          end
          page.text("No label is wanted.") if @labels.empty?
        end
      end

      private

      def label(page, label, x, y, wide, high)
        page.dash(2)
        page.stroke_rectangle([x, y], wide, high)
        page.undash
        code(page, label.address, x + wide - 62, y - 8, 54)
        page.bounding_box([x + 8, y - 8], width: wide - 76, height: high - 12) do
          page.text(label.variety, style: :bold, size: 12, overflow: :truncate)
          page.text("#{label.tag}  #{label.day.strftime('%-d %b %Y')}", size: 10)
          page.text(label.method, size: 9)
          page.text("#{label.scratch}   #{label.code}", size: 8)
        end
      end

      # A code drawn as squares.
      def code(page, text, x, y, size)
        modules = RQRCode::QRCode.new(text, level: :m).modules
        side = size / modules.size.to_f
        modules.each_with_index do |row, i|
          row.each_with_index { |dark, j| page.fill_rectangle([x + j * side, y - i * side], side, side) if dark }
        end
      end
    end
  end
end
