# frozen_string_literal: true

module Vestry
  module Web
    # A packed orchard on its way in, as a new one.
    class Bring < Base
      ADDRESS = %r{\A/bring(/|\z)}

      before { redirect "/sign-in" unless account }

      helpers do
        def bring(errors: {}) = erb(:"front/bring", locals: { errors: errors, uploads: Records::Upload.of(account) })
        def arrived(errors: {}) = erb(:"front/upload", locals: { errors: errors, upload: upload! })
        def upload! = Records::Upload.of!(account, params["token"])

        # Does something with what is on its way in; shows its page again where that is refused.
        def with_upload
          attempt(->(e) { arrived(errors: e.errors) }) do
            yield upload!
          end
        end
      end

      get("/bring") { bring }

      post "/bring" do
        attempt(->(e) { bring(errors: e.errors) }) do
          zip, name = sent("archive")
          upload = Deeds::ImportOrchard.keep(account, zip, name: name, slug: params["slug"])
          redirect "/bring/#{upload.token}"
        end
      end

      get("/bring/:token") { arrived }

      get "/bring/:token/progress" do
        content_type :json
        upload = upload!
        JSON.generate(done: upload.done, over: !upload.under_way?, said: through(upload.done, upload.bytes))
      end

      post "/bring/:token/begin" do
        with_upload do |upload|
          Deeds::ImportOrchard.begin(upload)
          redirect "/bring/#{upload.token}"
        end
      end

      post "/bring/:token/undo" do
        with_upload do |upload|
          Deeds::ImportOrchard.undo(upload, by: account.name)
          notice "It is out of sight, and its address is free."
          redirect "/bring/#{upload.token}"
        end
      end

      post "/bring/:token/restore" do
        with_upload do |upload|
          back = Deeds::ImportOrchard.restore(upload, by: account.name)
          notice "#{back.name} is back."
          redirect "/o/#{back.slug}/today"
        end
      end
    end
  end
end
