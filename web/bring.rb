# frozen_string_literal: true

module Vestry
  module Web
    # A packed orchard on its way in, as a new one.
    class Bring < Base
      ADDRESS = %r{\A/bring(/|\z)}

      before { redirect "/sign-in" unless account }

      helpers do
        def bring(errors: {}) = erb(:"front/bring", locals: { errors: errors, arrivals: Records::Arrival.of(account) })
        def arrived(errors: {}) = erb(:"front/arrival", locals: { errors: errors, arrival: arrival! })
        def arrival! = Records::Arrival.of!(account, params["token"])

        # Does something with what is on its way in; shows its page again where that is refused.
        def with_arrival
          yield arrival!
        rescue Deeds::Refused => e
          status 422
          arrived(errors: e.errors)
        end
      end

      get("/bring") { bring }

      post "/bring" do
        zip, name = sent("archive")
        arrival = Deeds::BringOrchard.keep(account, zip, name: name, slug: params["slug"])
        redirect "/bring/#{arrival.token}"
      rescue Deeds::Refused => e
        status 422
        bring(errors: e.errors)
      end

      get("/bring/:token") { arrived }

      get "/bring/:token/progress" do
        content_type :json
        arrival = arrival!
        JSON.generate(done: arrival.done, over: !arrival.under_way?, said: through(arrival.done, arrival.bytes))
      end

      post "/bring/:token/begin" do
        with_arrival do |arrival|
          Deeds::BringOrchard.begin(arrival)
          redirect "/bring/#{arrival.token}"
        end
      end

      post "/bring/:token/undo" do
        with_arrival do |arrival|
          Deeds::BringOrchard.undo(arrival, by: account.name)
          notice "It is out of sight, and its address is free."
          redirect "/bring/#{arrival.token}"
        end
      end

      post "/bring/:token/restore" do
        with_arrival do |arrival|
          back = Deeds::BringOrchard.restore(arrival, by: account.name)
          notice "#{back.name} is back."
          redirect "/o/#{back.slug}/survey"
        end
      end
    end
  end
end
