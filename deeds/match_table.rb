# frozen_string_literal: true

module Vestry
  module Deeds
    # How a table from elsewhere is read: guessed, completed by hand, and remembered for the next that looks like it.
    module MatchTable
      # Points have no columns.
      POINTS = %w[waypoints places].freeze
      private_constant :POINTS

      module_function

      # Whether a file is laid out otherwise than ours are. Then its layout is guessed, and it waits to be matched.
      #
      # @raise [Records::FileText::Unreadable]
      def wanted?(import)
        return false if POINTS.include?(import.kind) || own?(import)

        table = Records::ForeignTable.new(import.content)
        layout = Records::TableLayout.of(import, Records::LayoutGuess.new(import.kind, table).facts)
        plain = own_fields?(table, layout)
        import.update(state: plain ? "reading" : "matching", layout: Records::ImportLayouts.json(layout.facts))
        !plain
      end

      # Whether a table says by our own names what each of its columns holds, and leaves nothing to ask.
      def own_fields?(table, layout)
        named = table.headings.zip(layout.columns).all? { |heading, column| column && heading == column["field"] }
        named && layout.open_questions(table).empty?
      end

      # Reads it as one that looked like it was read, where there was one and nothing new is to be asked.
      def remembered(import)
        table = Records::ForeignTable.new(import.content)
        facts = Records::ImportLayouts.find(import.orchard_id, import.kind, table.fingerprint) or return false
        import.update(layout: Records::ImportLayouts.json(facts))
        return false if Records::TableLayout.of(import, facts).open_questions(table).any?

        import.update(state: "reading")
      end

      # @param facts [Hash] as Records::TableLayout takes it
      # @return [Records::Import] looked through, or on its way to be
      # @raise [Refused] with what is still to be told
      def call(import, facts, today:)
        table = Records::ForeignTable.new(import.content)
        layout = Records::TableLayout.of(import, facts)
        import.update(layout: Records::ImportLayouts.json(layout.facts)) if import.state == "matching"
        open = layout.open_questions(table)
        raise Refused, layout: open if open.any?

        DB.transaction do
          told = Records::ImportLayouts.json(layout.facts)
          unless import.advance(%w[matching previewed], state: "reading", layout: told)
            raise Refused, layout: ["It is on its way already."]
          end

          Records::ImportLayouts.keep(import.orchard_id, import.kind, table.fingerprint, layout.facts)
        end
        ImportFile.read_on(import.refresh, today: today)
      end

      # Back to be matched anew, while nothing is written.
      def again(import) = import.advance("previewed", state: "matching")

      def own?(import)
        return false if import.kind == "station"
        return true if Records::TableFile.reads?(import.kind, import.content) && %w[trees limbs].include?(import.kind)

        text = Records::FileText.of(import.content)
        names = CSV.parse_line(Records::FileText.heading(text), col_sep: Records::FileText.delimiter(text)).to_a
          .map { |name| name.to_s.strip }
        own_names?(import.kind, names)
      rescue CSV::MalformedCSVError
        true
      end

      def own_names?(kind, names)
        if %w[trees limbs].include?(kind)
          plain = names.map { |name| name.downcase.tr(" ", "_") }
          return (Records::TreeFile::NEEDED[kind] - plain).empty? && (plain - Records::TreeFile::KNOWN[kind]).empty?
        end

        table = Records::Archive::Tables.named(kind)
        (names - table.headers).empty? && (Records::Archive::Tables.schema(table)["required"] - ["key"] - names).empty?
      end
      private_class_method :own?, :own_names?, :own_fields?
    end
  end
end
