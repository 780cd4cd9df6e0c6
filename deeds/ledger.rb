# frozen_string_literal: true

module Vestry
  module Deeds
    # Writes facts and their history together. Everything that changes a row goes through here.
    module Ledger
      UNTOLD = %i[version created_at hidden_at client_key].freeze

      module_function

      # A new row; sent twice with the same client key, it is the one already there.
      #
      # @return [Sequel::Model]
      def add(model, values, by:, why: nil)
        DB.transaction do
          key = values[:client_key]
          same = model.sent_as(values.fetch(:orchard_id), key)
          next same if same

          row = DB.transaction(savepoint: true) { model.create(values) }
          note(row, "add", nil, told(row.values), by, why)
          row
        rescue Sequel::UniqueConstraintViolation
          same = model.sent_as(values.fetch(:orchard_id), key)
          same or raise
        end
      end

      # @param version [Integer, nil] the version the person saw; nil when nobody was shown one
      # @raise [Conflict] when the row has moved on and differs in what is about to be written
      def change(row, values, by:, version: nil, why: nil)
        DB.transaction do
          current = row.locked
          before = current.values.slice(*values.keys)
          changed = values.reject { |field, value| same?(before[field], value) }
          raise Conflict.new(current, values, changed.keys) if version && version != current.version && changed.any?
          next current if changed.empty?

          current.update(changed.merge(version: current.version + 1))
          note(current, "change", told(before.slice(*changed.keys)), told(current.values.slice(*changed.keys)), by, why)
          current
        end
      rescue Conflict => e
        tell_the_first(e, by)
        raise
      end

      # What a row's facts were before one change, where they still stand as that left them.
      #
      # @param row [Sequel::Model] as it is now
      # @param line [Hash] of history
      # @return [Hash, nil] columns; nil where they were changed since
      def before(row, line)
        columns = line[:before].to_h.keys | line[:after].to_h.keys
        stands = told(row.values.slice(*columns.map(&:to_sym))).transform_keys(&:to_s)
        return unless stands == line[:after].to_h

        columns.to_h { |column| [column.to_sym, line[:before].to_h[column]] }
      end

      # Whoever wrote first hears of it too, with both values.
      def tell_the_first(conflict, by)
        row = conflict.row
        orchard_id = orchard_id(row)
        first = Records::HistoryLog.last_hand(orchard_id, row.class.table_name, row.id) or return
        account = Records::Membership.account_of(orchard_id, first.last)
        return if account.nil? || first.first == by

        lines = conflict.errors.map { |field, words| "#{field.to_s.tr('_', ' ')}: #{turned(words.first, by)}" }
        PostLetter.call(letter(row, account.email, lines, by))
      end

      def letter(row, address, lines, by)
        what = row.class.table_name.to_s.tr("_", " ").chomp("s")
        Outside::Outbox::Letter.new(orchard: row.is_a?(Records::Orchard) ? row : row.orchard, address: address,
                                    subject: "Vestry: #{by} was changing the same #{what}", body: lines.join("\n"))
      end

      # What was said to the second, as the first is told it.
      def turned(words, by) = words.sub("yours was", "#{by} had typed").sub(" Save again to keep yours.", "")

      def hide(row, by:, why: nil, at: Time.now.utc)
        DB.transaction do
          row.update(hidden_at: at, version: row.version + 1)
          note(row, "hide", told(row.values), nil, by, why)
          row
        end
      end

      def restore(row, by:, why: nil)
        DB.transaction do
          row.update(hidden_at: nil, version: row.version + 1)
          note(row, "restore", nil, told(row.values), by, why)
          row
        end
      end

      # Something that happened to a row and changed none of its own columns.
      #
      # @param before [Hash, nil] what it was before, where that can be put back
      # @param facts [Hash] what is so since
      def event(row, facts, by:, before: nil, why: nil) = note(row, "change", before, facts, by, why)

      def note(row, action, before, after, by, why)
        Records::HistoryLog.add(orchard_id: orchard_id(row), table: row.class.table_name, row_id: row.id,
                                action: action,
                                who: by, before: before, after: after, why: why)
      end

      def orchard_id(row) = row.is_a?(Records::Orchard) ? row.id : row.orchard_id

      def told(values)
        values.reject { |field, value| UNTOLD.include?(field) || value.nil? }.transform_values do |value|
          case value
          when BigDecimal then value.to_f
          when Date, Time then value.iso8601
          else plain(value)
          end
        end
      end

      # Lists and objects as the database gives them are as good as lists and objects.
      def plain(value)
        return value.to_ary.map { |each| each.is_a?(BigDecimal) ? each.to_f : each } if value.respond_to?(:to_ary)

        value.respond_to?(:to_hash) ? value.to_hash : value
      end

      def same?(old, new)
        return old.map(&:to_f) == Array(new).map(&:to_f) if old.respond_to?(:to_ary) && new.respond_to?(:to_ary)
        return (old.to_f - new.to_f).zero? if old.is_a?(Numeric) && new.is_a?(Numeric)

        old == new
      end
      private_class_method :note, :orchard_id, :letter, :told, :plain, :same?, :tell_the_first, :turned
    end
  end
end
