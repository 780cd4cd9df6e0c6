# frozen_string_literal: true

module Vestry
  module Web
    # What lies outside any orchard: the door, and the reading of a typed measure.
    class Front < Base
      get "/" do
        orchards = Records::Orchard.order(:name).all
        redirect "/o/#{orchards.first.slug}/survey" if orchards.size == 1
        erb :"front/door", locals: { orchards: orchards }
      end

      # How a typed length is understood, for the echo beside a field.
      get "/measure" do
        content_type :text
        units = Core::Measure::UNITS.include?(params["units"]) ? params["units"] : "metric"
        begin
          measure = Core::Measure.parse(params["text"].to_s[0, 60], units: units)
          "#{measure.say(units)}#{" · #{measure.say('metric')}" if units == 'imperial'}"
        rescue Core::BadInput => e
          status 422
          e.allowed
        end
      end
    end
  end
end
