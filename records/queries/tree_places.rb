# frozen_string_literal: true

require "json"
require "nokogiri"

module Vestry
  module Records
    # Where trees stand, in open formats: those whose place was measured, as coordinates or as metres from the orchard's
    # place. Where a row and a number alone say where a tree is drawn, it is not told as if it were known.
    module TreePlaces
      module_function

      def geojson(orchard)
        features = rows(orchard).map do |row|
          told = JSON.generate({ name: row[:name], species: row[:species], variety: row[:variety] }.compact)
          %({"type":"Feature","geometry":{"type":"Point","coordinates":[#{plain(row[:longitude])},) +
            %(#{plain(row[:latitude])}]},"properties":#{told}})
        end
        %({"type":"FeatureCollection","features":[#{features.join(',')}]})
      end

      def gpx(orchard)
        Nokogiri::XML::Builder.new(encoding: "UTF-8") do |xml|
          xml.gpx(version: "1.1", creator: "Vestry", xmlns: "http://www.topografix.com/GPX/1/1") do
            rows(orchard).each do |row|
              xml.wpt(lat: plain(row[:latitude]), lon: plain(row[:longitude])) do
                xml.name row[:name]
                xml.type row[:species]
              end
            end
          end
        end.to_xml
      end

      # Without an exponent, which few programs read in a place.
      def plain(degrees) = format("%.7f", degrees)

      def rows(orchard)
        flat = Math.cos(orchard.latitude * Math::PI / 180)
        measured(orchard).map do |row|
          { name: "#{row[:row]}#{row[:number]}", species: row[:species], variety: row[:variety],
            latitude: row[:latitude] || orchard.latitude + row[:y_m] / Places::METRES_A_DEGREE,
            longitude: row[:longitude] || orchard.longitude + row[:x_m] / (Places::METRES_A_DEGREE * flat) }
        end
      end

      def measured(orchard)
        known = Sequel.|(Sequel.~(latitude: nil) & Sequel.~(longitude: nil), Sequel.~(x_m: nil) & Sequel.~(y_m: nil))
        Tree.in_sight.where(Sequel[:trees][:orchard_id] => orchard.id).where(known)
          .left_join(:varieties, id: Sequel[:trees][:variety_id]).order(:row, :number)
          .select(:row, :number, Sequel[:trees][:species], :latitude, :longitude, :x_m, :y_m,
                  Sequel[:varieties][:name].as(:variety)).naked
      end
      private_class_method :plain, :rows, :measured
    end
  end
end
