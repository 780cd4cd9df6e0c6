# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A graft that was set into a bare stretch.
      class FillSiteForm < LogGraftForm
        lengths superclass.lengths
        numbers superclass.numbers

        params(LogGraftForm.schema)

        # Columns of a graft.
        #
        # @raise [Deeds::Refused]
        def self.to_row(reading, orchard)
          v = reading.values
          unless Core::Rulebook.shipped.site_methods.include?(v[:technique])
            raise Deeds::Refused, technique: ["is one that works a side: " \
                                              "#{Core::Rulebook.shipped.site_methods.join(' or ')}"]
          end

          { **v.slice(:technique, :minutes, :bark_slip, :conditions, :against_reason, :client_key, :known_since,
                      :grafted_on, :sticks, :grafter), **finish(v),
            variety_id: named(orchard, :variety, v[:variety]).id, stub_mm: v[:stub],
            stub_typed: reading.typed["stub"].to_s, scion_mm: v[:scion], faces: [],
            brace: v[:brace] || false }
        end
      end
    end
  end
end
