# frozen_string_literal: true

module Vestry
  module Records
    # The text of a file as it came from a person's machine.
    module FileText
      # A file that cannot be read at all, in words.
      class Unreadable < StandardError; end

      # A cell without an end is not looked for further than this.
      LONGEST_CELL = 8192
      DELIMITERS = [",", ";", "\t"].freeze
      # In how much of a file it is looked for how it is written.
      START = 65_536
      WIDE = { "\xFF\xFE".b => "UTF-16LE", "\xFE\xFF".b => "UTF-16BE" }.freeze
      private_constant :START, :WIDE

      module_function

      # In UTF-8 without a mark at its front and with plain line ends; two bytes to a sign are known by their mark or
      # by every other byte being nothing; what else is not UTF-8 is taken for the usual encoding of spreadsheets.
      #
      # @raise [Unreadable]
      def of(bytes)
        text = narrow(bytes).force_encoding("UTF-8").delete_prefix("\uFEFF")
        unless text.valid_encoding?
          text = bytes.dup.force_encoding("Windows-1252").encode("UTF-8", invalid: :replace, undef: :replace)
        end
        raise Unreadable, "It is empty." if text.strip.empty?
        raise Unreadable, "It is not a text file; save a sheet as CSV first." if text.include?("\u0000")

        text.gsub(/\r\n?/, "\n")
      end

      # Whichever of comma, semicolon and tab the heading has most of.
      def delimiter(text) = DELIMITERS.max_by { |each| heading(text).count(each) }

      def heading(text) = text[0, START].to_s[/\A[^\n]*/].to_s

      def narrow(bytes)
        wide = WIDE[bytes.b[0, 2]] || unmarked(bytes.b[0, 400]) or return bytes.dup
        bytes.dup.force_encoding(wide).encode("UTF-8", invalid: :replace, undef: :replace)
      end

      def unmarked(start)
        first, second = start.bytes.each_slice(2).to_a.transpose.map { |some| some.count(0) } if start.bytesize.even?
        half = start.bytesize / 2
        return if half < 4 || first.nil?

        "UTF-16LE" if first.zero? && second > half * 0.9
      end
      private_class_method :narrow, :unmarked
    end
  end
end
