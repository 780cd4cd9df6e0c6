# frozen_string_literal: true

module Vestry
  module Records
    # The text of a file as it came from a person's machine.
    module FileText
      # A file that cannot be read at all, in words.
      class Unreadable < StandardError; end

      # A cell without an end is not looked for further than this.
      LONGEST_CELL = 8192

      module_function

      # In UTF-8 without a mark at its front and with plain line ends; what is not UTF-8 is taken for
      # the usual encoding of spreadsheets.
      #
      # @raise [Unreadable]
      def of(bytes)
        text = bytes.dup.force_encoding("UTF-8").delete_prefix("\uFEFF")
        unless text.valid_encoding?
          text = bytes.dup.force_encoding("Windows-1252").encode("UTF-8", invalid: :replace, undef: :replace)
        end
        raise Unreadable, "It is empty." if text.strip.empty?
        raise Unreadable, "It is not a text file." if text.include?("\u0000")

        text.gsub(/\r\n?/, "\n")
      end

      # Whichever of comma, semicolon and tab the heading has most of.
      def delimiter(text) = [",", ";", "\t"].max_by { |each| heading(text).count(each) }

      def heading(text) = text[0, 65_536].to_s[/\A[^\n]*/].to_s
    end
  end
end
