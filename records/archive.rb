# frozen_string_literal: true

require "csv"
require "json"

module Vestry
  module Records
    # An orchard as a folder of open files: orchard.json and a CSV for each table. Rows name
    # each other as people do: a tree by row and number (A3), a limb by its tag, a graft by
    # its limb and day.
    module Archive
      # A file that cannot be read, with the place.
      class Unreadable < StandardError; end

      ORDER = %w[varieties trees limbs plans plan_limbs grafts visits tasks tallies stores bundles bundle_checks wounds wound_margins bridge_scions wound_visits wound_tasks].freeze
      TABLES = { "visits" => :observations, "tasks" => :tasks_done, "wound_tasks" => :tasks_done }.freeze

      # Reads the folder into a new orchard: all of it, or none.
      #
      # @param folder [String]
      # @return [Orchard]
      # @raise [Unreadable] naming file and line
      def self.read(folder)
        DB.transaction { Reader.new(folder).read }
      end

      # One reading.
      class Reader
        def initialize(folder)
          @folder = folder
          @ids = Hash.new { |tables, table| tables[table] = {} }
          @sticks = {}
          @fates = {}
        end

        def read
          facts = JSON.parse(File.read(File.join(@folder, "orchard.json")))
          facts["overrides"] = Sequel.pg_jsonb(facts["overrides"] || {})
          @orchard = Orchard.create(facts)
          ORDER.each { |file| read_table(file) }
          read_readings
          read_fates
          read_weather
          Places.settle(@orchard)
          DB[:history].insert(orchard_id: @orchard.id, table_name: "orchards", row_id: @orchard.id, action: "add", who: "import",
                              after: Sequel.pg_jsonb({ "name" => @orchard.name }))
          @orchard
        end

        private

        def read_table(file)
          path = File.join(@folder, "#{file}.csv")
          return unless File.exist?(path)

          table = TABLES.fetch(file, file.to_sym)
          CSV.foreach(path, headers: true, encoding: "bom|utf-8").with_index(2) do |line, number|
            facts = line.to_h.compact.reject { |_, value| value.empty? }
            values, key = send("#{file}_row", facts)
            @ids[file][key] = DB[table].insert(values.merge(orchard_id: @orchard.id))
          rescue KeyError, Sequel::DatabaseError, ArgumentError => e
            raise Unreadable, "#{file}.csv line #{number}: #{e.message.lines.first.strip}"
          end
        end

        def stores_row(facts) = [facts.transform_keys(&:to_sym), facts.fetch("name")]

        # A bundle with its sticks: their diameters one after another, or only how many are left.
        def bundles_row(facts)
          key, store, diameters, left = %w[bundle store diameters left].map { |name| facts.delete(name) }
          facts["whole_shoots"] = facts["whole_shoots"] == "yes"
          tree = facts.delete("tree")
          values = named(facts, "variety" => "varieties")
          values[:tree_id] = id("trees", tree) if tree
          @sticks[key] = [diameters ? diameters.split.map { |each| Float(each) } : Array.new(Integer(left)), store, values[:cut_on]]
          [values, key]
        end

        def bundle_checks_row(facts)
          key = facts.delete("bundle")
          [facts.transform_keys(&:to_sym).merge(bundle_id: id("bundles", key)), "#{key} #{facts.fetch('seen_on')}"]
        end

        FLAGS = %w[root_bark buried below_union drying].freeze

        def wounds_row(facts)
          tree = facts.delete("tree")
          FLAGS.each { |flag| facts[flag] = facts[flag] == "yes" if facts.key?(flag) }
          [facts.transform_keys(&:to_sym).merge(tree_id: id("trees", tree)), "#{tree} #{facts.fetch('found_on')}"]
        end

        def wound_margins_row(facts) = of_wound(facts, "bearing_deg")

        def bridge_scions_row(facts)
          bundle = facts.delete("bundle")
          values, key = of_wound(facts, "number")
          [bundle ? values.merge(bundle_id: id("bundles", bundle)) : values, key]
        end

        def wound_visits_row(facts)
          facts["blossom_stripped"] = facts["blossom_stripped"] == "yes"
          fates = facts.delete("fates").to_s.split(";").map(&:split)
          wound = "#{facts['tree']} #{facts['found_on']}"
          values, key = of_wound(facts, "seen_on")
          @fates[key] = fates.to_h { |number, fate| [id("bridge_scions", "#{wound} #{number}"), fate] }
          [values, key]
        end

        def wound_tasks_row(facts) = of_wound(facts, "key")

        def of_wound(facts, own)
          wound = "#{facts.delete('tree')} #{facts.delete('found_on')}"
          [facts.transform_keys(&:to_sym).merge(wound_id: id("wounds", wound)), "#{wound} #{facts.fetch(own)}"]
        end

        def read_fates
          @fates.each { |key, fates| DB[:scion_fates].multi_insert(fates.map { |scion, fate| { orchard_id: @orchard.id, visit_id: id("wound_visits", key), scion_id: scion, fate: fate } }) }
        end

        # The sticks of the bundles just read, and where they lie.
        def read_sticks
          @sticks.each do |key, (diameters, store, cut_on)|
            bundle = id("bundles", key)
            DB[:sticks].multi_insert(diameters.each_with_index.map { |mm, i| { orchard_id: @orchard.id, bundle_id: bundle, number: i + 1, diameter_mm: mm } })
            DB[:bundle_stays].insert(orchard_id: @orchard.id, bundle_id: bundle, store_id: id("stores", store), since: "#{cut_on} 00:00Z") if store
          end
        end

        # What the thermometers said.
        def read_readings
          read_sticks
          path = File.join(@folder, "store_readings.csv")
          return unless File.exist?(path)

          rows = CSV.foreach(path, headers: true, encoding: "bom|utf-8").map { |line| "#{@orchard.id},#{id('stores', line['store'])},#{line['at']},#{line['celsius']}\n" }
          DB.copy_into(:store_readings, format: :csv, columns: %i[orchard_id store_id at celsius], data: rows)
        rescue KeyError, Sequel::DatabaseError => e
          raise Unreadable, "store_readings.csv: #{e.message.lines.first.strip}"
        end

        # Many plain rows: straight into the table.
        def read_weather
          path = File.join(@folder, "weather.csv")
          return unless File.exist?(path)

          lines = File.readlines(path, chomp: true, encoding: "bom|utf-8")
          columns = lines.shift.split(",").map(&:to_sym)
          DB.copy_into(:weather_days, format: :csv, columns: [:orchard_id, *columns], data: lines.map { |line| "#{@orchard.id},#{line}\n" })
        rescue Sequel::DatabaseError => e
          raise Unreadable, "weather.csv line #{e.message[/line (\d+)/, 1].to_i + 1}: #{e.message.lines.first.strip}"
        end

        def varieties_row(facts)
          %w[protected outside].each { |flag| facts[flag] = facts[flag] == "yes" }
          [facts.transform_keys(&:to_sym), facts.fetch("name")]
        end

        def trees_row(facts)
          values = named(facts, "variety" => "varieties")
          [values, "#{facts.fetch('row')}#{facts.fetch('number')}"]
        end

        def limbs_row(facts)
          tree = facts.delete("tree")
          parent = facts.delete("parent")
          values = named(facts, "variety" => "varieties").merge(tree_id: id("trees", tree))
          values[:parent_id] = id("limbs", "#{tree} #{parent}") if parent
          [values, "#{tree} #{facts.fetch('tag')}"]
        end

        def plans_row(facts)
          tree = facts.delete("tree")
          [facts.transform_keys(&:to_sym).merge(tree_id: id("trees", tree)), tree]
        end

        def plan_limbs_row(facts)
          tree, limb = facts.delete("tree"), facts.delete("limb")
          values = with_faces(named(facts, "variety" => "varieties"))
          [values.merge(plan_id: id("plans", tree), limb_id: id("limbs", "#{tree} #{limb}")), "#{tree} #{limb}"]
        end

        def grafts_row(facts)
          limb = "#{facts.delete('tree')} #{facts.delete('limb')}"
          %w[brace perch].each { |flag| facts[flag] = facts[flag] == "yes" }
          values = with_faces(named(facts, "variety" => "varieties"))
          [values.merge(limb_id: id("limbs", limb)), "#{limb} #{facts.fetch('grafted_on')}"]
        end

        def visits_row(facts) = of_graft(facts, "seen_on")
        def tasks_row(facts) = of_graft(facts, "key")

        def tallies_row(facts)
          %w[alive waist].each { |flag| facts[flag] = facts[flag] == "yes" }
          of_graft(facts, "season")
        end

        def of_graft(facts, own)
          graft = "#{facts.delete('tree')} #{facts.delete('limb')} #{facts.delete('grafted_on')}"
          [facts.transform_keys(&:to_sym).merge(graft_id: id("grafts", graft)), "#{graft} #{facts.fetch(own)}"]
        end

        def named(facts, references)
          references.each { |column, file| facts["#{column}_id"] = id(file, facts.delete(column)) if facts[column] }
          facts.transform_keys(&:to_sym)
        end

        def with_faces(values)
          values[:faces] = Sequel.pg_array(values[:faces].to_s.split.map { |each| Float(each) }, :numeric)
          values
        end

        def id(file, key) = @ids[file].fetch(key) { raise KeyError, "#{key.inspect} is not in #{file}.csv" }
      end
      private_constant :Reader
    end
  end
end
