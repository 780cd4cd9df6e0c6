# frozen_string_literal: true

module Vestry
  module Records
    # Lines of history: what was changed in which row, by whom and why.
    module HistoryLog
      module_function

      # All that is written meanwhile is one deed.
      #
      # @param deed [String] a uuid
      def as_one(deed)
        before, Thread.current[:vestry_deed] = Thread.current[:vestry_deed], deed
        yield
      ensure
        Thread.current[:vestry_deed] = before
      end

      # @param table [Symbol, String]
      # @param before [Hash, nil] plain values, and +after+ too
      def add(orchard_id:, table:, row_id:, action:, who:, before: nil, after: nil, why: nil)
        DB[:history].insert(**line(orchard_id, table, row_id, action, who, why), before: json(before),
                            after: json(after))
      end

      # Many of one kind.
      #
      # @param rows [Hash{Integer=>Hash, nil}] what each row is after it, by its number
      # @param before [Hash, nil] what each of them was
      def add_all(rows, orchard_id:, table:, action:, who:, before: nil, why: nil)
        rows.each_slice(1000) do |some|
          DB[:history].multi_insert(some.map do |id, after|
            line(orchard_id, table, id, action, who, why).merge(before: json(before), after: json(after))
          end)
        end
      end

      # Whose change to a row was the last: the account, by the name it has there.
      #
      # @return [Array(String, Integer), nil]
      def last_hand(orchard_id, table, row_id)
        DB[:history].where(orchard_id: orchard_id, table_name: table.to_s, row_id: row_id)
          .order(Sequel.desc(:id)).get(%i[who account_id])
      end

      # Rows whose last change these days was made for that reason, each with what it was before.
      #
      # @return [Hash{Integer=>Hash}]
      def last_changed_for(orchard_id, table, why, days: 7, most: 2000)
        latest = DB[:history].where(orchard_id: orchard_id).order(Sequel.desc(:id)).limit(most).from_self
        latest.where(table_name: table.to_s).where { at > Sequel.date_sub(Sequel::CURRENT_TIMESTAMP, days: days) }
          .distinct(:row_id).order(:row_id, Sequel.desc(:id)).from_self.where(action: "change", why: why)
          .select_hash(:row_id, :before)
      end

      # Which sticks of which bundles were given back when what they were set on was last taken away.
      #
      # @param on [Symbol] :graft or :wound
      # @return [Hash{Integer=>Array<Integer>}] numbers of sticks by bundle
      def given_back(orchard_id, on, id)
        DB[:history].where(orchard_id: orchard_id, table_name: "bundles")
          .where(Sequel.lit("after->>? = ? AND after->'numbers' IS NOT NULL", on.to_s, id.to_s))
          .order(:id).select_map(%i[row_id after]).to_h { |bundle, after| [bundle, after["numbers"].to_a] }
      end

      def line(orchard_id, table, row_id, action, who, why)
        { orchard_id: orchard_id, table_name: table.to_s, row_id: row_id, action: action, who: who, why: why,
          deed: Thread.current[:vestry_deed] }
      end

      def json(values) = values && Sequel.pg_jsonb(values)
      private_class_method :line, :json
    end
  end
end
