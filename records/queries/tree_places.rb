# frozen_string_literal: true

require "json"
require "nokogiri"

module Vestry
  module Records
    # Where trees stand, in open formats: those with coordinates of their own, or with metres from the
    # orchard's place.
    module TreePlaces
      module_function

      def geojson(orchard)
        JSON.generate(type: "FeatureCollection", features: rows(orchard).map { |row| { type: "Feature",
          geometry: { type: "Point", coordinates: [row[:longitude].round(7), row[:latitude].round(7)] },
          properties: { name: row[:name], species: row[:species], variety: row[:variety] }.compact } })
      end

      def gpx(orchard)
        Nokogiri::XML::Builder.new(encoding: "UTF-8") do |xml|
          xml.gpx(version: "1.1", creator: "Vestry", xmlns: "http://www.topografix.com/GPX/1/1") do
            rows(orchard).each do |row|
              xml.wpt(lat: row[:latitude].round(7),
                      lon: row[:longitude].round(7)) { xml.name row[:name]; xml.type row[:species] }
            end
          end
        end.to_xml
      end

      def rows(orchard)
        flat = Math.cos(orchard.latitude * Math::PI / 180)
        Tree.in_sight.where(Sequel[:trees][:orchard_id] => orchard.id)
          .left_join(:varieties, id: Sequel[:trees][:variety_id]).order(:row, :number)
            .select(:row, :number, Sequel[:trees][:species], :latitude, :longitude, :map_x, :map_y,
                    Sequel[:varieties][:name].as(:variety)).naked.map do |row|
          { name: "#{row[:row]}#{row[:number]}", species: row[:species], variety: row[:variety],
            latitude: row[:latitude] || orchard.latitude + row[:map_y] / Places::METRES_A_DEGREE,
            longitude: row[:longitude] || orchard.longitude + row[:map_x] / (Places::METRES_A_DEGREE * flat) }
        end
      end
      private_class_method :rows
    end
  end
end
