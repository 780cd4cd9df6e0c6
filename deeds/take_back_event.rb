# frozen_string_literal: true

module Vestry
  module Deeds
    # Takes back what was recorded of a limb: everything that it changed is again as it was, and it leaves sight.
    module TakeBackEvent
      # @param event [Records::LimbEvent]
      # @raise [Refused] where something that it changed was changed since, or nothing is kept of it
      def self.call(event, by:)
        DB.transaction do
          event.limb.tree.locked
          event = event.locked
          next event if event.hidden_at

          changes = changes(event)
          raise Refused, event: ["what it changed is not kept: measure the limb again instead"] if changes.empty?

          changes.each { |row, facts| undo(row, facts, by) }
          Ledger.hide(event, by: by, why: "taken back")
        end
      end

      # Rows of its orchard, each with what is to be again; the last change first.
      def self.changes(event)
        event.changes.to_a.reverse.group_by { |each| each.values_at("table", "id") }.map do |(table, id), facts|
          [event.changed_row(table, id), facts]
        end
      end

      def self.undo(row, facts, by)
        moved = facts.reject { |fact| same?(row[fact["column"].to_sym], fact["now"]) }
        if moved.any?
          raise Refused, event: ["#{row.is_a?(Records::Limb) ? row.label : row.limb.label} was changed since: " \
                                 "#{moved.map { |fact| fact['column'].sub(/_(mm|on|deg)\z/, '').tr('_', ' ') }
                                   .join(', ')}"]
        end

        Ledger.change(row, facts.to_h { |fact| [fact["column"].to_sym, fact["was"]] }, by: by, why: "taken back")
      end

      def self.same?(value, kept)
        case value
        when Numeric then kept.is_a?(Numeric) && (value.to_f - kept).abs < 1e-6
        when Date then value.iso8601 == kept
        else value == kept
        end
      end
      private_class_method :changes, :undo, :same?
    end
  end
end
