# frozen_string_literal: true

module Vestry
  module Records
    # How tables from elsewhere were read in an orchard, by what they hold and how their headings read.
    module ImportLayouts
      module_function

      # @return [Hash, nil] as TableLayout takes it
      def find(orchard_id, kind, headings)
        DB[:import_layouts].where(orchard_id: orchard_id, kind: kind, headings: headings).get(:layout)&.to_h
      end

      def keep(orchard_id, kind, headings, facts)
        DB[:import_layouts].insert_conflict(target: %i[orchard_id kind headings],
                                            update: { layout: Sequel[:excluded][:layout], used_at: Time.now.utc })
          .insert(orchard_id: orchard_id, kind: kind, headings: headings, layout: json(facts))
      end

      def json(facts) = Sequel.pg_jsonb(facts)
    end
  end
end
