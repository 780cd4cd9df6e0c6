# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # What the description of the interface says of fields beside their kind: how a text is written, and which rows a
      # number is of.
      module FieldNotes
        ANY = {
          "client_key" => "a UUID of the sender's own: sent twice, it is one deed",
          "version" => "as it was read: where the row has moved on since, the answer is 409",
          "variety" => "the id of one of varieties",
          "bundle" => "the id of one of bundles",
          "store" => "the id of one of stores",
          "against_reason" => "why it is done all the same, where a check is against it",
          "again" => "true where another graft of the limb stands: it is worked anew",
          "grafter" => "the name of whoever made it",
          "bark_left" => "a share of the round in per cent: 30%",
          "crop" => "kg or lb, as 12 kg",
          "sure" => "true where a limb is thicker than what it grows from, and that is so",
          "thicker_known" => "true where it is thicker than what it grows from, and that is so",
          "girth_known" => "true where it is not what the tree's own girth says, and that is so",
          "wind_from" => "degrees of the compass",
          "bearing" => "degrees from north, or a compass point such as NE",
          "known_since" => "the day on which it was learned of, where it was made long before"
        }.freeze
        DIAMETERS = "one after another, in their order: 8 9 9.5, or 3 × 8 mm"
        SET = { "faces" => "where each stick sits, in degrees: −45 45" }.freeze
        SETTLED = { "key" => "as /due names it",
                    "what" => "planning again, counting, setting scions and judging looks are done where they are " \
                              "written, and not here" }.freeze
        private_constant :DIAMETERS, :SET, :SETTLED

        OF = {
          "trees" => { "first" => "the first number of the row, or the only one", "last" => "the last number" },
          "trees/{id}/lines" => { "lines" => "a limb to a line: A ne girth 220 long 2400 from 900 up 40, and of a " \
                                             "branch A1 on A girth 120" },
          "trees/{id}/limbs" => { "parent" => "the tag of the limb it grows from", "rise" => "degrees above level" },
          "trees/{id}/sites" => { "limb" => "the id of the limb it is on; without one, on the trunk" },
          "bundles" => { "diameters" => DIAMETERS,
                         "tree" => "the label of the tree it was cut from, as A1",
                         "promise" => "the id of the order that it came by, in wood_promises",
                         "checked" => Deeds::MakeBundle::CHECKS.map { |name, words| "#{name}: #{words}" }.join("; ") },
          "bundles/{id}/diameters" => { "diameters" => DIAMETERS },
          "limbs/{id}/grafts" => SET,
          "sites/{id}/grafts" => SET,
          "grafts/{id}" => SET,
          "grafts/{id}/visits" => { "dead_sticks" => "the numbers of those that died: 1 3" },
          "grafts/{id}/tasks" => SETTLED,
          "wounds/{id}/tasks" => SETTLED,
          "patterns" => { "trees" => "labels of single trees: A3 B4" },
          "wounds" => { "lines" => "a tree to a line, and what bark is left of the round: Z1 bark 30%" },
          "wounds/{id}" => { "margins" => "a bearing to a line, and from where to where it is bare: 90 100-180" },
          "wounds/{id}/places" => { "bearings" => "degrees or compass points: 10 90 180" },
          "wounds/{id}/repairs" => { "scions" => "numbers of the places that were filled",
                                     "bearings" => "of those set elsewhere: 10 90 180",
                                     "beside" => "bearings of dead scions beside which others were set",
                                     "thicknesses" => "by the place's number: {\"1\": \"8 mm\"}" },
          "wounds/{id}/visits" => { "fates" => "alive or dead, by the scion's id: {\"7\": \"alive\"}",
                                    "rest" => "alive, where all that are not named live" }
        }.freeze

        # @param write [Write]
        # @param name [String] of a field
        # @return [String, nil]
        def self.of(write, name) = OF.fetch(write.path, {})[name] || ANY[name]
      end
    end
  end
end
