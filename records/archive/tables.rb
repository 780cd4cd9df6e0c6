# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # The tables of an orchard in the order in which they are read, what each row is called, and what
      # it points at. The columns are the database's own, with their units in the name.
      module Tables
        # +name+ the file's, +table+ the database's; +key+ SQL for what a row is called, nil where nothing
        # points at it; +refs+ column => file it points into; +order+ SQL; +without+ columns left out.
        Table = Struct.new(:name, :table, :key, :refs, :order, :without, keyword_init: true) do
          # Column => how it is written: text, whole, number, yes or no, day, moment, list, json, or a key.
          def columns
            @columns ||= DB.schema(table).reject { |column, _| [:id, :orchard_id, *without].include?(column) }
              .to_h do |column, facts|
              refs.key?(column) ? [column, "key"] : [column, KINDS.fetch(facts[:db_type].sub(/\(.*\)/, ""))]
            end
          end

          # What a column is called in the file: what it points at, without _id.
          def header(column) = refs.key?(column) ? column.to_s.delete_suffix("_id") : column.to_s
          def headers = (key ? ["key"] : []) + columns.keys.map { |column| header(column) }
          def id? = DB.schema(table).any? { |column, _| column == :id }
        end

        KINDS = { "text" => "text", "integer" => "whole", "numeric" => "number", "double precision" => "number",
                  "boolean" => "yes or no", "date" => "day", "timestamp without time zone" => "moment",
                  "timestamp with time zone" => "moment",
                  "uuid" => "text", "jsonb" => "json", "numeric[]" => "list" }.freeze

        module_function

        def one(name, table: name.to_sym, key: nil, refs: {}, order: "t.id", without: [])
          Table.new(name: name, table: table, key: key, refs: refs, order: order, without: without)
        end

        def all
          @all ||= [
            *of_survey,
            one("plans", key: "r_tree.key", refs: { tree_id: "trees" }),
            one("plan_limbs", key: "r_plan.key || ' / ' || r_limb.key",
                refs: { plan_id: "plans", limb_id: "limbs", variety_id: "varieties" }),
            one("plan_sites", refs: { plan_id: "plans", site_id: "sites", variety_id: "varieties" }),
            one("wood_promises", refs: { variety_id: "varieties" }),
            one("stores", key: "t.name"),
            one("store_readings", refs: { store_id: "stores" }, order: "t.store_id, t.at"),
            one("bundles", key: "'W' || t.number", refs: { variety_id: "varieties", tree_id: "trees",
                                                           parent_id: "bundles" }),
            one("bundle_stays", refs: { bundle_id: "bundles", store_id: "stores" }),
            one("bundle_checks", refs: { bundle_id: "bundles" }),
            one("phenology_seen", refs: { tree_id: "trees" }),
            one("weather", table: :weather_days, order: "t.day"),
            one("grafts", key: "r_limb.key || ' ' || t.grafted_on",
                refs: { limb_id: "limbs", variety_id: "varieties" }),
            one("wounds", key: "r_tree.key || ' ' || t.found_on", refs: { tree_id: "trees" }),
            one("wound_margins", refs: { wound_id: "wounds" }, order: "t.wound_id, t.bearing_deg"),
            one("sticks", key: "r_bundle.key || '.' || t.number",
                refs: { bundle_id: "bundles", graft_id: "grafts", wound_id: "wounds" }),
            one("stick_locks", refs: { stick_id: "sticks", plan_limb_id: "plan_limbs" }, order: "t.stick_id"),
            one("crew_days", order: "t.day"),
            one("crew_fixed", refs: { plan_limb_id: "plan_limbs" }, order: "t.plan_limb_id"),
            one("visits", table: :observations, key: "r_graft.key || ' / ' || t.seen_on", refs: { graft_id: "grafts" }),
            one("bridge_scions", key: "r_wound.key || ' no ' || t.number",
                refs: { wound_id: "wounds", bundle_id: "bundles" }),
            one("wound_visits", key: "r_wound.key || ' / ' || t.seen_on", refs: { wound_id: "wounds" }),
            one("scion_fates", refs: { visit_id: "wound_visits", scion_id: "bridge_scions" },
                order: "t.visit_id, t.scion_id"),
            one("tasks", table: :tasks_done, refs: { graft_id: "grafts", wound_id: "wounds" }),
            one("tallies", refs: { graft_id: "grafts" }),
            *of_pictures
          ].freeze
        end

        def of_pictures
          [
            one("photos", key: "'P' || row_number() OVER (ORDER BY t.id)",
                refs: { tree_id: "trees", limb_id: "limbs", observation_id: "visits" }, without: %i[image]),
            one("picture_measures", refs: { photo_id: "photos" })
          ]
        end

        # The orchard as it stands.
        def of_survey
          [
            one("varieties", key: "t.name", refs: { same_as_id: "varieties" }),
            one("trees", key: "t.row || CASE WHEN t.row ~ '[0-9]$' THEN '-' ELSE '' END || t.number",
                refs: { variety_id: "varieties" }, without: %i[map_x map_y import_id]),
            one("limbs", key: "r_tree.key || ' ' || t.tag",
                refs: { tree_id: "trees", parent_id: "limbs", variety_id: "varieties" }, without: %i[import_id]),
            one("limb_events", refs: { limb_id: "limbs" }, without: %i[changes]),
            one("sites", key: "r_tree.key || ' ' || t.tag", refs: { tree_id: "trees", limb_id: "limbs" })
          ]
        end

        def named(name) = all.find { |each| each.name == name }
        # The file whose rows a database table holds.
        def of(table) = all.find { |each| each.table.to_s == table.to_s }

        # What a row of a file looks like, as a JSON Schema: written from the same columns.
        def schema(table)
          kinds = { "text" => { "type" => "string" }, "key" => { "type" => "string", "minLength" => 1 },
                    "whole" => { "type" => "string", "pattern" => "^-?[0-9]+$" },
                    "number" => { "type" => "string", "pattern" => "^-?[0-9]+(\\.[0-9]+)?([eE][-+]?[0-9]+)?$" },
                    "yes or no" => { "enum" => %w[yes no] }, "day" => { "type" => "string", "format" => "date" },
                    "moment" => { "type" => "string", "format" => "date-time" },
                    "list" => { "type" => "string", "pattern" => "^(-?[0-9.]+( -?[0-9.]+)*)?$" },
                    "json" => { "type" => "string" } }
          properties = table.columns.to_h do |column, kind|
            facts = kinds.fetch(kind)
            facts = facts.merge("description" => "a key of #{table.refs[column]}.csv") if kind == "key"
            facts = { "enum" => Choices.of(table)[column] } if Choices.of(table)[column]
            [table.header(column), facts]
          end
          if table.key
            properties = { "key" => { "type" => "string", "minLength" => 1,
                                      "description" => "what other files call this row" } }.merge(properties)
          end
          needed = DB.schema(table.table).select { |column, facts| table.columns.key?(column) && !facts[:allow_null] &&
                                                   facts[:default].nil? }.map do |column, _|
            table.header(column)
          end
          { "$schema" => "https://json-schema.org/draft/2020-12/schema", "$id" => "#{SCHEMA}/#{table.name}",
            "title" => "a line of #{table.name}.csv; an empty cell is left out", "type" => "object",
            "properties" => properties, "required" => (table.key ? ["key"] : []) + needed,
            "additionalProperties" => false }
        end

        ORCHARD = { "slug" => "string", "name" => "string", "latitude" => "number", "longitude" => "number",
                    "altitude_m" => "number", "declination_deg" => %w[number null],
                    "time_zone" => "string", "grazing" => "string", "wind_from_deg" => %w[integer null],
                    "reach_mm" => "number", "units" => "string", "school" => "string",
                    "overrides" => "object", "weather_place" => %w[string null] }.freeze

        def orchard_schema
          { "$schema" => "https://json-schema.org/draft/2020-12/schema", "$id" => "#{SCHEMA}/orchard",
            "title" => "orchard.json", "type" => "object",
            "properties" => { "schema" => { "const" => SCHEMA } }
              .merge(ORCHARD.transform_values { |type| { "type" => type } }),
                "required" => %w[schema slug name latitude longitude school], "additionalProperties" => false }
        end
      end
    end
  end
end
